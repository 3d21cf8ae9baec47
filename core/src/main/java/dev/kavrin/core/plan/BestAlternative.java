package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What one change would have saved of the work that a crash took.
 *
 * @param kind of change
 * @param to minutes it would be set to; zero for a copy at every save
 * @param lost with it
 * @param saved against what was lost
 * @param plan with the change in it, null if it is one of the program's own settings
 */
public record BestAlternative(
    Kind kind, Duration to, Duration lost, Duration saved, @Nullable Plan plan) {
  /** What is changed. */
  public enum Kind {
    PROGRAM_WRITES,
    INTERVAL,
    EVERY_SAVE
  }

  private static final List<Duration> INTERVALS =
      List.of(
          Duration.ofMinutes(10),
          Duration.ofMinutes(5),
          Duration.ofMinutes(2),
          Duration.ofMinutes(1));
  private static final List<Duration> OWN = List.of(Duration.ofMinutes(5), Duration.ofMinutes(2));

  /**
   * The change that would have saved most; of equals the mildest. Empty if none would have saved a
   * minute.
   *
   * @param activity with writes of the document that was hit
   * @param crash last moment the program was known alive
   * @param taken when the work in what came back was done
   * @param writes how often the program writes by itself, null if it does not or nothing tells
   */
  public static Optional<BestAlternative> of(
      Plan plan, Activity activity, Instant crash, Instant taken, @Nullable Duration writes) {
    Duration lost = Duration.between(taken, crash);
    List<BestAlternative> all = new ArrayList<>();
    for (Duration own : OWN) {
      if (writes == null || own.compareTo(writes) < 0) {
        Duration then = Duration.ofSeconds(lost.toSeconds() % own.toSeconds());
        all.add(new BestAlternative(Kind.PROGRAM_WRITES, own, then, lost.minus(then), null));
      }
    }
    for (Duration interval : INTERVALS) {
      if (plan.dueAfter().isEmpty() || interval.compareTo(plan.dueAfter().get()) < 0) {
        add(all, Kind.INTERVAL, interval, plan.every(interval), activity, crash, taken);
      }
    }
    if (!plan.everySave()) {
      add(all, Kind.EVERY_SAVE, Duration.ZERO, plan.onEverySave(), activity, crash, taken);
    }
    return all.stream()
        .filter(h -> h.saved().compareTo(Duration.ofMinutes(1)) >= 0)
        .max(
            Comparator.comparing(BestAlternative::saved)
                .thenComparing((a, b) -> Integer.compare(all.indexOf(b), all.indexOf(a))));
  }

  private static void add(
      List<BestAlternative> all,
      Kind kind,
      Duration to,
      Plan changed,
      Activity activity,
      Instant crash,
      Instant taken) {
    Replay.of(changed, activity, 1).losses().stream()
        .filter(l -> l.at().equals(crash) && l.work() != null && l.work().isAfter(taken))
        .map(Replay.Loss::work)
        .max(Comparator.naturalOrder())
        .ifPresent(
            work ->
                all.add(
                    new BestAlternative(
                        kind,
                        to,
                        Duration.between(work, crash),
                        Duration.between(taken, work),
                        changed)));
  }
}
