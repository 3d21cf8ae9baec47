package dev.kavrin.core.plan;

import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * What a recovery folder is too full or too slow for.
 *
 * @param free bytes of room
 * @param rate bytes a second its device took lately, null if that was not measured
 */
public record Fit(long free, @Nullable Long rate) {
  /**
   * A document whose copies go there.
   *
   * @param interval its plan's; zero for no timed copies
   */
  public record Load(String name, long size, Duration interval) {}

  /** Copies stop short of the room the program needs to write its own file once more. */
  private boolean isTooFull(Load load) {
    return free / 2 < load.size();
  }

  /** A copy that takes longer than its interval is late for the next one. */
  private boolean isTooSlow(Load load) {
    return rate != null
        && !load.interval().isZero()
        && copying(load).compareTo(load.interval()) > 0;
  }

  private Duration copying(Load load) {
    return Duration.ofNanos(Math.round(load.size() * 1e9 / rate));
  }

  /** In words, the largest document of each kind; empty if the folder is fit for all. */
  public List<String> limits(List<Load> loads) {
    List<String> limits = new ArrayList<>();
    largest(loads.stream().filter(this::isTooFull).toList(), "too full for", limits);
    List<Load> slow = loads.stream().filter(this::isTooSlow).toList();
    largest(slow, "too slow for", limits);
    if (!slow.isEmpty()) {
      int last = limits.size() - 1;
      Load load = slow.stream().max((a, b) -> Long.compare(a.size(), b.size())).orElseThrow();
      limits.set(
          last,
          "%s: a copy takes %s, one is due every %s"
              .formatted(limits.get(last), Words.age(copying(load)), Words.age(load.interval())));
    }
    return limits;
  }

  private static void largest(List<Load> loads, String what, List<String> limits) {
    loads.stream()
        .max((a, b) -> Long.compare(a.size(), b.size()))
        .ifPresent(
            l ->
                limits.add(
                    "%s %s (%s)%s"
                        .formatted(
                            what,
                            l.name(),
                            Sizes.words(l.size()),
                            loads.size() > 1 ? " and " + (loads.size() - 1) + " more" : "")));
  }
}
