package dev.kavrin.core.compare;

import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Part;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Pairs the parts of two inventories: same path and content, else the one part with the same
 * content, else same path, else the one most like it. Never quadratic in the number of parts.
 */
final class PartMatcher {
  /** What is found again by content alone; values of settings are too alike for that. */
  private static final Set<String> KNOWN_BY_CONTENT =
      Set.of("mesh", "layer", "block", "field", "entry", "picture", "animation", "skin", "shape");

  private static final int NEIGHBOURS = 24;

  /** Either side may be null, not both. */
  record Match(Part a, Part b) {}

  private final Map<String, Part> leftA = new LinkedHashMap<>();
  private final Map<String, Part> leftB = new LinkedHashMap<>();
  private final List<Match> matches = new ArrayList<>();

  private PartMatcher(Inventory a, Inventory b) {
    a.parts().forEach(p -> leftA.put(p.id(), p));
    b.parts().forEach(p -> leftB.put(p.id(), p));
  }

  static List<Match> match(Inventory a, Inventory b) {
    PartMatcher matcher = new PartMatcher(a, b);
    matcher.byPath(true);
    matcher.byUniqueContent();
    matcher.byPath(false);
    matcher.byLikeness();
    matcher.leftA.values().forEach(p -> matcher.matches.add(new Match(p, null)));
    matcher.leftB.values().forEach(p -> matcher.matches.add(new Match(null, p)));
    return matcher.matches;
  }

  /** Only those that are called the same or hold the same; both sides are there in each. */
  static List<Match> sameOnes(Inventory a, Inventory b) {
    PartMatcher matcher = new PartMatcher(a, b);
    matcher.byPath(true);
    matcher.byUniqueContent();
    matcher.byPath(false);
    return matcher.matches;
  }

  private void byPath(boolean sameContent) {
    for (Part a : List.copyOf(leftA.values())) {
      Part b = leftB.get(a.id());
      if (b != null
          && b.kind().equals(a.kind())
          && (!sameContent || a.exact() != null && a.exact().equals(b.exact()))) {
        pair(a, b);
      }
    }
  }

  private void byUniqueContent() {
    Map<String, List<Part>> inA = grouped(leftA);
    Map<String, List<Part>> inB = grouped(leftB);
    inA.forEach(
        (k, parts) -> {
          List<Part> others = inB.getOrDefault(k, List.of());
          if (parts.size() == 1 && others.size() == 1) {
            pair(parts.get(0), others.get(0));
          }
        });
  }

  private static Map<String, List<Part>> grouped(Map<String, Part> parts) {
    Map<String, List<Part>> groups = new HashMap<>();
    for (Part part : parts.values()) {
      if (part.exact() != null && KNOWN_BY_CONTENT.contains(part.kind())) {
        groups.computeIfAbsent(part.kind() + part.exact(), x -> new ArrayList<>()).add(part);
      }
    }
    return groups;
  }

  private void byLikeness() {
    for (Likeness likeness : Likeness.values()) {
      byLikeness(likeness);
    }
  }

  /** What is nearly as large is compared, a few on either side, the likest first. */
  private void byLikeness(Likeness likeness) {
    List<Part> large = new ArrayList<>(leftB.values().stream().filter(likeness::takes).toList());
    large.sort(Comparator.comparingDouble(likeness::size));
    List<Pair> pairs = new ArrayList<>();
    for (Part a : leftA.values()) {
      if (likeness.takes(a)) {
        int at = place(large, likeness, likeness.size(a));
        for (int i = Math.max(0, at - NEIGHBOURS);
            i < Math.min(large.size(), at + NEIGHBOURS);
            i++) {
          double unlike = likeness.between(a, large.get(i));
          if (unlike < likeness.limit()) {
            pairs.add(new Pair(a, large.get(i), unlike));
          }
        }
      }
    }
    pairs.sort(
        Comparator.comparingDouble(Pair::unlike)
            .thenComparing(p -> p.a().id())
            .thenComparing(p -> p.b().id()));
    for (Pair p : pairs) {
      if (leftA.containsKey(p.a().id()) && leftB.containsKey(p.b().id())) {
        pair(p.a(), p.b());
      }
    }
  }

  private record Pair(Part a, Part b, double unlike) {}

  private static int place(List<Part> sorted, Likeness likeness, double size) {
    int low = 0;
    int high = sorted.size();
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (likeness.size(sorted.get(middle)) < size) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }

  private void pair(Part a, Part b) {
    leftA.remove(a.id());
    leftB.remove(b.id());
    matches.add(new Match(a, b));
  }
}
