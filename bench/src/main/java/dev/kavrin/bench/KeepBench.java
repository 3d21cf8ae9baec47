package dev.kavrin.bench;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepRule;
import dev.kavrin.core.keep.KeepState;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** All keep rules at once over 10,000 states; no general tool does the same. */
final class KeepBench {
  private static final int STATES = 10_000;

  private KeepBench() {}

  static void run() {
    Instant now = Instant.parse("2031-03-03T12:00:00Z");
    List<KeepState> states = new ArrayList<>();
    for (int b = 1; b <= STATES; b++) {
      states.add(
          new KeepState(
              "state-" + b,
              b,
              now.minus(Duration.ofMinutes(10L * (STATES - b))),
              2_000_000,
              b % 7 != 0,
              b % 500 == 0 ? Set.of("pinned") : Set.of()));
    }
    Counts counts =
        new Counts(
            6_000, Duration.ofDays(30), Duration.ofDays(90), Duration.ofDays(700), 16, 1L << 32);
    KeepRule rule = counts.rule(now, ZoneId.of("Europe/Oslo"), List.of(now.minusSeconds(86_400)));
    Laps.run(
        "keep: " + STATES + " states through all rules", 20, () -> KeepDecision.of(rule, states));
  }
}
