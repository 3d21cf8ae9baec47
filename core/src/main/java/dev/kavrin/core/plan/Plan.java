package dev.kavrin.core.plan;

import dev.kavrin.core.keep.Counts;
import java.time.Duration;
import java.util.Optional;

/**
 * When copies are made, how many stay, what a person accepts to lose.
 *
 * @param interval longest time from a change to its copy; zero means no timed copies
 * @param everySave every save is copied, whatever the interval
 * @param quiet how long the file must have rested before it is copied
 * @param hardLimit how long a copy waits for that rest at most
 * @param handsOff when to stay away altogether
 * @param keep how many states stay
 * @param accepted work a person is willing to lose
 */
public record Plan(
    Duration interval,
    boolean everySave,
    Duration quiet,
    Duration hardLimit,
    HandsOff handsOff,
    Counts keep,
    Duration accepted) {
  private static final Duration LONGEST = Duration.ofDays(7);
  public static final Plan DEFAULT =
      every(
          Duration.ofMinutes(10),
          new Counts(24, Duration.ofDays(2), Duration.ZERO, Duration.ZERO, 0, 0),
          Duration.ofMinutes(10));

  /** Minutes after a change, the file having rested 2 s, in 2 min at most. */
  public static Plan every(Duration interval, Counts keep, Duration accepted) {
    return new Plan(
        interval,
        false,
        Duration.ofSeconds(2),
        Duration.ofMinutes(2),
        HandsOff.NEVER,
        keep,
        accepted);
  }

  public Plan {
    handsOff = handsOff == null ? HandsOff.NEVER : handsOff;
    inRange("interval", interval, Duration.ZERO, LONGEST);
    inRange("quiet time", quiet, Duration.ofSeconds(2), Duration.ofHours(1));
    inRange("longest wait", hardLimit, Duration.ZERO, Duration.ofHours(4));
    inRange("accepted loss", accepted, Duration.ofMinutes(1), LONGEST);
  }

  private static void inRange(String what, Duration value, Duration least, Duration most) {
    if (value.compareTo(least) < 0 || value.compareTo(most) > 0) {
      throw new IllegalArgumentException(
          what
              + ": "
              + value.toSeconds()
              + " s is not within "
              + least.toSeconds()
              + " to "
              + most.toSeconds()
              + " s");
    }
  }

  public Plan with(HandsOff other) {
    return new Plan(interval, everySave, quiet, hardLimit, other, keep, accepted);
  }

  public Plan with(Counts other) {
    return new Plan(interval, everySave, quiet, hardLimit, handsOff, other, accepted);
  }

  public Plan onEverySave() {
    return new Plan(interval, true, quiet, hardLimit, handsOff, keep, accepted);
  }

  /** True if copies are made without a person asking. */
  public boolean timed() {
    return dueAfter().isPresent();
  }

  /** How long after a change a copy is due; empty if none ever is. */
  public Optional<Duration> dueAfter() {
    if (everySave) {
      return Optional.of(Duration.ZERO);
    }
    return interval.isZero() ? Optional.empty() : Optional.of(interval);
  }
}
