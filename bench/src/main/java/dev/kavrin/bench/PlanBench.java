package dev.kavrin.bench;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.Replay;
import dev.kavrin.core.plan.Worked;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.UUID;

/** A plan replayed over a year: 20,000 changes, 60 crashes. */
final class PlanBench {
  private static final int DAYS = 250;
  private static final int CHANGES = 80;
  private static final int CRASHES = 60;

  private PlanBench() {}

  static void run() {
    Random random = new Random(17);
    Instant begin = Instant.parse("2031-01-06T08:00:00Z");
    UUID document = new UUID(1, 1);
    List<Activity.Write> writes = new ArrayList<>();
    for (int day = 0; day < DAYS; day++) {
      Instant at = begin.plus(Duration.ofHours(day * 33L));
      for (int i = 0; i < CHANGES; i++) {
        at = at.plusSeconds(60 + random.nextInt(600));
        writes.add(new Activity.Write(at, 40_000_000 + random.nextInt(5_000_000)));
      }
    }
    List<Activity.Crash> crashes = new ArrayList<>();
    for (int i = 0; i < CRASHES; i++) {
      Instant at = writes.get(i * writes.size() / CRASHES + 40).at().plusSeconds(45);
      crashes.add(new Activity.Crash(at, at, List.of(document)));
    }
    Activity activity =
        new Activity(
            Map.of(document, writes),
            crashes,
            List.of(),
            Worked.of(writes.stream().map(Activity.Write::at).toList(), Duration.ZERO),
            ZoneId.of("Europe/Oslo"),
            new Activity.Looks(begin, Duration.ofSeconds(1), begin.plus(Duration.ofDays(400))),
            Set.of());
    Plan plan =
        Plan.every(
            Duration.ofMinutes(10),
            new Counts(24, Duration.ofDays(2), Duration.ofDays(30), Duration.ofDays(180), 8, 0),
            Duration.ofMinutes(15));
    Laps.run(
        "plan: a year of " + writes.size() + " changes and " + CRASHES + " crashes replayed",
        50,
        () -> Replay.of(plan, activity, 2));
  }
}
