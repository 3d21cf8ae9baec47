package dev.kavrin.core.version;

import dev.kavrin.core.units.Span;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.TreeMap;
import java.util.function.IntToLongFunction;

/** The heaviest part of a sequence that does not go back in time. */
final class HeaviestSubsequence {
  private HeaviestSubsequence() {}

  private record Link(long weight, int last, Link before) {}

  /**
   * Indices of the heaviest subsequence in which no span ends before an earlier one begins, by
   * their beginnings; O(n log n).
   */
  static List<Integer> rising(List<Span> spans, IntToLongFunction weight) {
    TreeMap<Long, Link> best = new TreeMap<>();
    for (int i = 0; i < spans.size(); i++) {
      long key = nanos(spans.get(i));
      var before = best.floorEntry(key);
      Link link =
          new Link(
              weight.applyAsLong(i) + (before == null ? 0 : before.getValue().weight()),
              i,
              before == null ? null : before.getValue());
      var after = best.ceilingEntry(key);
      while (after != null && after.getValue().weight() <= link.weight()) {
        best.remove(after.getKey());
        after = best.ceilingEntry(key);
      }
      Link there = best.get(key);
      if (there == null || there.weight() < link.weight()) {
        best.put(key, link);
      }
    }
    List<Integer> chosen = new ArrayList<>();
    for (Link l = best.isEmpty() ? null : best.lastEntry().getValue(); l != null; l = l.before()) {
      chosen.add(l.last());
    }
    Collections.reverse(chosen);
    return chosen;
  }

  private static long nanos(Span span) {
    return span.lo().getEpochSecond() * 1_000_000_000L + span.lo().getNano();
  }
}
