package dev.kavrin.core.plan;

import java.time.Duration;

/**
 * When copies are made, how many stay, what a person accepts to lose.
 *
 * @param interval longest time from a change to its copy; zero means no timed copies
 * @param quiet how long the file must have rested before it is copied
 * @param hardLimit how long a copy waits for that rest at most
 * @param keep how many newest states stay, not counting the protected one
 * @param hourlyFor first state of each hour stays that long; zero for none
 * @param accepted work a person is willing to lose
 */
public record Plan(
    Duration interval,
    Duration quiet,
    Duration hardLimit,
    int keep,
    Duration hourlyFor,
    Duration accepted) {
  private static final Duration LONGEST = Duration.ofDays(7);
  private static final int MOST = 100_000;
  public static final Plan DEFAULT =
      new Plan(
          Duration.ofMinutes(10),
          Duration.ofSeconds(2),
          Duration.ofMinutes(2),
          24,
          Duration.ofDays(2),
          Duration.ofMinutes(10));

  public Plan {
    inRange("interval", interval, Duration.ZERO, LONGEST);
    inRange("quiet time", quiet, Duration.ofSeconds(2), Duration.ofHours(1));
    inRange("longest wait", hardLimit, Duration.ZERO, Duration.ofHours(4));
    inRange("hourly span", hourlyFor, Duration.ZERO, Duration.ofDays(3650));
    inRange("accepted loss", accepted, Duration.ofMinutes(1), LONGEST);
    if (keep < 0 || keep > MOST) {
      throw new IllegalArgumentException("Copies to keep: " + keep + " is not within 0 to " + MOST);
    }
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
