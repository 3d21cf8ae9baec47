package dev.kavrin.core.compare;

import dev.kavrin.core.compare.PartChange.Pair;
import dev.kavrin.core.compare.PartChange.Shift;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.mesh.MeshData;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;

/** Says what differs between two inventories, with numbers. */
public final class Comparer {
  /** Measures that are 1 where something is there and not shown. */
  static final List<String> HIDING = List.of("off", "frozen", "hidden");

  private final Insides inA;
  private final Insides inB;
  private final Tolerance tolerance;
  private final boolean sameFormat;

  private Comparer(Insides inA, Insides inB, Tolerance tolerance, boolean sameFormat) {
    this.inA = inA;
    this.inB = inB;
    this.tolerance = tolerance;
    this.sameFormat = sameFormat;
  }

  /**
   * Compares within what the files themselves can tell apart.
   *
   * @return differences first, by weight; the same last
   * @throws IOException shapes could not be read
   */
  public static List<PartChange> compare(Inventory a, Inventory b, Insides inA, Insides inB)
      throws IOException {
    return compare(a, b, inA, inB, Tolerance.of(a, b));
  }

  /** The same within a tolerance of the person's. */
  public static List<PartChange> compare(
      Inventory a, Inventory b, Insides inA, Insides inB, Tolerance tolerance) throws IOException {
    Comparer comparer = new Comparer(inA, inB, tolerance, a.format().equals(b.format()));
    List<PartChange> changes = new ArrayList<>();
    for (PartMatcher.Match match : PartMatcher.match(a, b)) {
      if (weighty(match.a()) || weighty(match.b())) {
        changes.add(comparer.change(match));
      }
    }
    changes.sort(Comparator.comparing(PartChange::outcome).thenComparing(c -> -weight(c)));
    return changes;
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

  private PartChange change(PartMatcher.Match m) throws IOException {
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
    boolean surface = !sameFormat || Objects.equals(a.surface(), b.surface());
    ShapeChange change = shape && place ? ShapeChange.UNKNOWN : shapeChange(a, b);
    ItemChange items = shape ? ItemChange.UNKNOWN : itemChange(a, b);
    boolean same =
        shape && place && isShownAlike(a, b) || change.same() || items.same() && isShownAlike(a, b);
    if (!same && (change.moved() || shape && !place)) {
      return make(Outcome.SHIFTED, m, known, numbers, change.shift(), moved(change.shift()));
    }
    if (!same || !surface) {
      numbers.putAll(fieldChange(a, b));
      String words =
          items.known() && !items.same() ? items.words() : words(a, b, change.shift(), same);
      return make(Outcome.CHANGED, m, known, numbers, change.shift(), words);
    }
    if (!a.label().equals(b.label())) {
      return make(Outcome.RENAMED, m, known, numbers, null, "was " + a.label());
    }
    if (sameFormat && !Objects.equals(a.parent(), b.parent())) {
      String from = a.parent() == null ? "the top" : a.parent();
      return make(Outcome.REPARENTED, m, known, numbers, null, "was under " + from);
    }
    String words = shape && place ? "the same" : "the same, written otherwise";
    return make(Outcome.SAME, m, known, numbers, null, words);
  }

  private ItemChange itemChange(Part a, Part b) throws IOException {
    return a.kind().equals("layer") || a.kind().equals("block")
        ? ItemChange.of(inA.items().of(a.id()), inB.items().of(b.id()), tolerance)
        : ItemChange.UNKNOWN;
  }

  /** How far the numbers of a field went apart, value by value, if both have as many. */
  private Map<String, Pair> fieldChange(Part a, Part b) throws IOException {
    if (!a.kind().equals("field") || a.measure("count") != b.measure("count")) {
      return Map.of();
    }
    double[] from = inA.fields().of(a.id());
    double[] to = inB.fields().of(b.id());
    if (from.length == 0 || from.length != to.length) {
      return Map.of();
    }
    double apart = 0;
    double all = 0;
    double largest = 0;
    for (int i = 0; i < from.length; i++) {
      double d = to[i] - from[i];
      apart += d * d;
      all += from[i] * from[i];
      largest = Math.max(largest, Math.abs(d));
    }
    Measure mean = b.measures().get("mean");
    String unit = mean == null ? "" : mean.unit();
    Map<String, Pair> numbers = new LinkedHashMap<>();
    numbers.put("relative L2", new Pair(null, Math.sqrt(apart / all), ""));
    numbers.put("largest difference", new Pair(null, largest, unit));
    numbers.values().removeIf(p -> !Double.isFinite(p.b()));
    return numbers;
  }

  private static boolean isShownAlike(Part a, Part b) {
    return HIDING.stream().allMatch(how -> a.measure(how) == b.measure(how));
  }

  private ShapeChange shapeChange(Part a, Part b) throws IOException {
    if (!a.kind().equals("mesh") || !b.kind().equals("mesh")) {
      return ShapeChange.UNKNOWN;
    }
    MeshData from = inA.shapes().shape(a.id());
    MeshData to = inB.shapes().shape(b.id());
    return from == null || to == null ? ShapeChange.UNKNOWN : ShapeChange.of(from, to, tolerance);
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

  /** The difference between two parts that are the same one, from their inventories alone. */
  static String words(Part a, Part b, boolean sameShape) {
    return words(a, b, null, sameShape);
  }

  private static String words(Part a, Part b, Shift shift, boolean shape) {
    switch (b.kind()) {
      case "setting":
        return from(a, b, "value");
      case "field":
        return "mean " + from(a, b, "mean");
      case "layer":
      case "block":
        return drawn(a, b);
      default:
        return shape(a, b, shift, shape);
    }
  }

  private static String drawn(Part a, Part b) {
    double entities = b.measure("entities") - a.measure("entities");
    if (entities != 0) {
      return String.format(
              Locale.ROOT, "%+.0f %s", entities, Math.abs(entities) == 1 ? "entity" : "entities")
          .replace("-", "−");
    }
    String hiding = hiding(a, b);
    if (!hiding.isEmpty()) {
      return hiding;
    }
    return Objects.equals(a.exact(), b.exact()) ? "other colour or line" : "redrawn";
  }

  private static String hiding(Part a, Part b) {
    return HIDING.stream()
        .filter(how -> a.measure(how) != b.measure(how))
        .findFirst()
        .map(how -> (b.measure(how) == 1 ? "now " : "no longer ") + how)
        .orElse("");
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
    double faces = b.measure("faces") - a.measure("faces");
    if (!shape && faces != 0) {
      return String.format(Locale.ROOT, "%+.0f faces", faces).replace("-", "−");
    }
    if (!shape) {
      return shift == null || shift.largest() == 0 ? "reshaped" : moved(shift);
    }
    String hiding = hiding(a, b);
    return hiding.isEmpty() ? "other surface" : hiding;
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
}
