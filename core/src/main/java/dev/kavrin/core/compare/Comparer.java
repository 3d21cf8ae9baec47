package dev.kavrin.core.compare;

import dev.kavrin.core.compare.PartChange.Pair;
import dev.kavrin.core.compare.PartChange.Shift;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;

/** Says what differs between two inventories, with numbers. */
public final class Comparer {
  private Comparer() {}

  public static Comparison compare(Inventory a, Inventory b, Geometry inA, Geometry inB) {
    List<PartChange> changes =
        PartMatcher.match(a, b).stream()
            .filter(m -> weighty(m.a()) || weighty(m.b()))
            .map(m -> change(m, inA, inB))
            .sorted(Comparator.comparing(PartChange::outcome).thenComparing(c -> -weight(c)))
            .toList();
    return new Comparison(changes);
  }

  private static boolean weighty(Part part) {
    return part != null && !part.kind().equals("group");
  }

  private static double weight(PartChange change) {
    if (change.shift() != null) {
      return change.shift().largest();
    }
    Pair faces = change.numbers().get("faces");
    return faces == null
        ? 0
        : Math.abs(
            Objects.requireNonNullElse(faces.b(), 0.0)
                - Objects.requireNonNullElse(faces.a(), 0.0));
  }

  private static PartChange change(PartMatcher.Match m, Geometry inA, Geometry inB) {
    Part a = m.a();
    Part b = m.b();
    Part known = b == null ? a : b;
    Map<String, Pair> numbers = numbers(a, b);
    if (a == null || b == null) {
      Outcome outcome = a == null ? Outcome.ADDED : Outcome.REMOVED;
      return make(outcome, m, known, numbers, null, faces(known, a == null ? "new" : "gone"));
    }
    if (!a.readable() || !b.readable()) {
      String words = "not readable in " + (a.readable() ? "B" : b.readable() ? "A" : "either");
      return make(Outcome.UNREADABLE, m, known, numbers, null, words);
    }
    boolean shape = Objects.equals(a.exact(), b.exact());
    boolean place = Objects.equals(a.placing(), b.placing());
    boolean surface = Objects.equals(a.surface(), b.surface());
    boolean named = a.id().equals(b.id());
    Shift shift = shape && place ? null : shift(a, b, inA, inB);
    if (!shape || !surface) {
      return make(Outcome.CHANGED, m, known, numbers, shift, words(a, b, shift, shape));
    }
    if (!place) {
      return make(Outcome.SHIFTED, m, known, numbers, shift, moved(shift));
    }
    return named
        ? make(Outcome.SAME, m, known, numbers, null, "the same")
        : make(Outcome.RENAMED, m, known, numbers, null, "was " + a.label());
  }

  private static PartChange make(
      Outcome outcome,
      PartMatcher.Match m,
      Part known,
      Map<String, Pair> numbers,
      Shift shift,
      String words) {
    return new PartChange(
        outcome,
        m.a() == null ? null : m.a().id(),
        m.b() == null ? null : m.b().id(),
        known.label(),
        known.kind(),
        numbers,
        shift,
        words);
  }

  private static Map<String, Pair> numbers(Part a, Part b) {
    Map<String, Pair> numbers = new LinkedHashMap<>();
    Map<String, Measure> ma = a == null ? Map.of() : a.measures();
    Map<String, Measure> mb = b == null ? Map.of() : b.measures();
    TreeSet<String> names = new TreeSet<>(ma.keySet());
    names.addAll(mb.keySet());
    for (String name : names) {
      Measure x = ma.get(name);
      Measure y = mb.get(name);
      numbers.put(
          name,
          new Pair(
              x == null ? null : x.value(),
              y == null ? null : y.value(),
              x == null ? y.unit() : x.unit()));
    }
    return numbers;
  }

  private static String faces(Part part, String word) {
    if (!part.readable()) {
      return word + ", could not be read";
    }
    return part.measures().containsKey("faces")
        ? String.format(Locale.ROOT, "%s, %,.0f faces", word, part.measure("faces"))
            .replace(',', '\u202f')
            .replaceFirst("\u202f ", ", ")
        : word;
  }

  private static String words(Part a, Part b, Shift shift, boolean shape) {
    switch (b.kind()) {
      case "setting":
        return from(a, b, "value");
      case "field":
        return "mean " + from(a, b, "mean");
      case "layer":
        double entities = b.measure("entities") - a.measure("entities");
        return entities == 0
            ? "redrawn"
            : String.format(
                    Locale.ROOT,
                    "%+.0f %s",
                    entities,
                    Math.abs(entities) == 1 ? "entity" : "entities")
                .replace("-", "−");
      default:
        return shape(a, b, shift, shape);
    }
  }

  private static String from(Part a, Part b, String measure) {
    Measure before = a.measures().get(measure);
    Measure after = b.measures().get(measure);
    return before == null || after == null
        ? "another value"
        : String.format(Locale.ROOT, "%.6g → %.6g %s", before.value(), after.value(), after.unit())
            .strip();
  }

  private static String shape(Part a, Part b, Shift shift, boolean shape) {
    if (!shape && a.measure("volume") * b.measure("volume") < 0) {
      return "surfaces turned round";
    }
    if (!shape && shift != null) {
      return moved(shift);
    }
    if (!shape) {
      double faces = b.measure("faces") - a.measure("faces");
      return faces == 0
          ? "reshaped"
          : String.format(Locale.ROOT, "%+.0f faces", faces).replace("-", "−");
    }
    return "other surface";
  }

  private static String moved(Shift shift) {
    if (shift == null) {
      return "moved";
    }
    double mm = shift.largest() * 1000;
    return mm < 10_000
        ? String.format(Locale.ROOT, "moved up to %.1f mm", mm)
        : String.format(Locale.ROOT, "moved up to %.1f m", mm / 1000);
  }

  private static Shift shift(Part a, Part b, Geometry inA, Geometry inB) {
    if (a.measure("vertices") != b.measure("vertices")) {
      return null;
    }
    float[] from = inA.points(a.id());
    float[] to = inB.points(b.id());
    if (from == null || to == null || from.length != to.length || from.length == 0) {
      return null;
    }
    double largest = 0;
    double squares = 0;
    for (int i = 0; i + 2 < from.length; i += 3) {
      double dx = (double) to[i] - from[i];
      double dy = (double) to[i + 1] - from[i + 1];
      double dz = (double) to[i + 2] - from[i + 2];
      double square = dx * dx + dy * dy + dz * dz;
      largest = Math.max(largest, square);
      squares += square;
    }
    return new Shift(Math.sqrt(largest), Math.sqrt(squares / (from.length / 3)));
  }
}
