package dev.kavrin.core.plan;

import java.time.Duration;

/**
 * When to prove that copies come back.
 *
 * @param askAfter so long after the last rehearsal a person is asked for the next; zero for never
 * @param unattended so often the newest copy of each document is restored to the side and read
 *     whole; zero for never
 */
public record Proving(Duration askAfter, Duration unattended) {
  private static final Duration LONGEST = Duration.ofDays(366);

  /** A quarter of a year, and each week; a rule of our own, no source. */
  public static final Proving DEFAULT = new Proving(Duration.ofDays(90), Duration.ofDays(7));

  public Proving {
    for (Duration one : new Duration[] {askAfter, unattended}) {
      if (one.isNegative() || one.compareTo(LONGEST) > 0) {
        throw new IllegalArgumentException(
            "Proving: " + one.toDays() + " days is not within 0 to " + LONGEST.toDays());
      }
    }
  }
}
