package dev.kavrin.core.plan;

import dev.kavrin.core.keep.Counts;
import java.time.Duration;

/**
 * When copies are made, how many stay, what a person accepts to lose.
 *
 * @param interval longest time from a change to its copy; zero means no timed copies
 * @param quiet how long the file must have rested before it is copied
 * @param hardLimit how long a copy waits for that rest at most
 * @param keep how many states stay
 * @param accepted work a person is willing to lose
 */
public record Plan(
    Duration interval, Duration quiet, Duration hardLimit, Counts keep, Duration accepted) {
  private static final Duration LONGEST = Duration.ofDays(7);
  public static final Plan DEFAULT =
      new Plan(
          Duration.ofMinutes(10),
          Duration.ofSeconds(2),
          Duration.ofMinutes(2),
          new Counts(24, Duration.ofDays(2), Duration.ZERO, Duration.ZERO, 0, 0),
          Duration.ofMinutes(10));

  public Plan {
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

  public boolean timed() {
    return !interval.isZero();
  }
}
