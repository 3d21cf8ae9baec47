package dev.kavrin.server.restore;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.function.Function;

/** What can be taken instead of what was chosen: a few that lie near a moment. */
final class Neighbours {
  private Neighbours() {}

  /**
   * The chosen one and those nearest to the moment, newest first.
   *
   * @param chosen among them however far from the moment it lies; null for none
   * @param limit how many at most
   */
  static <T> List<T> of(
      List<T> all, @Nullable T chosen, Instant moment, Function<T, Instant> time, int limit) {
    Comparator<T> chosenFirst = Comparator.comparing(t -> !t.equals(chosen));
    return all.stream()
        .sorted(chosenFirst.thenComparing(t -> Duration.between(moment, time.apply(t)).abs()))
        .limit(limit)
        .sorted(Comparator.comparing(time).reversed())
        .toList();
  }
}
