package dev.kavrin.core.compare;

import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Part;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Pairs the parts of two inventories: same path, else the one part with the same geometry, else the
 * one of the same make (faces, vertices and area). Linear in the number of parts.
 */
final class PartMatcher {
  private static final double SAME_AREA = 0.01;

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
    matcher.byPath();
    matcher.byUnique(p -> p.exact() == null ? null : p.kind() + p.exact());
    matcher.byUnique(PartMatcher::make);
    matcher.leftA.values().forEach(p -> matcher.matches.add(new Match(p, null)));
    matcher.leftB.values().forEach(p -> matcher.matches.add(new Match(null, p)));
    return matcher.matches;
  }

  private void byPath() {
    for (Part a : List.copyOf(leftA.values())) {
      Part b = leftB.get(a.id());
      if (b != null && b.kind().equals(a.kind())) {
        pair(a, b);
      }
    }
  }

  private interface Key {
    String of(Part part);
  }

  private void byUnique(Key key) {
    Map<String, List<Part>> inA = grouped(leftA, key);
    Map<String, List<Part>> inB = grouped(leftB, key);
    inA.forEach(
        (k, parts) -> {
          List<Part> others = inB.getOrDefault(k, List.of());
          if (parts.size() == 1 && others.size() == 1) {
            pair(parts.get(0), others.get(0));
          }
        });
  }

  private static Map<String, List<Part>> grouped(Map<String, Part> parts, Key key) {
    Map<String, List<Part>> groups = new HashMap<>();
    for (Part part : parts.values()) {
      String k = key.of(part);
      if (k != null) {
        groups.computeIfAbsent(k, x -> new ArrayList<>()).add(part);
      }
    }
    return groups;
  }

  private static String make(Part part) {
    if (!part.kind().equals("mesh") || !part.readable()) {
      return null;
    }
    long area = Math.round(Math.log(Math.max(part.measure("area"), 1e-12)) / SAME_AREA);
    return part.parent()
        + "|"
        + part.measure("faces")
        + "|"
        + part.measure("vertices")
        + "|"
        + area;
  }

  private void pair(Part a, Part b) {
    leftA.remove(a.id());
    leftB.remove(b.id());
    matches.add(new Match(a, b));
  }
}
