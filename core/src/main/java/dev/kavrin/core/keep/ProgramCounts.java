package dev.kavrin.core.keep;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;

/**
 * How many of the copies stay that were kept as a program wrote them aside of its own accord. Both
 * parts add up; both zero: none are kept.
 *
 * @param newest that many last ones
 * @param hourly the last of each hour stays that long
 */
public record ProgramCounts(int newest, Duration hourly) {
  private static final int MOST = 1000;
  private static final Duration LONGEST = Duration.ofDays(30);

  /** Own choice, no source. */
  public static final ProgramCounts DEFAULT = new ProgramCounts(6, Duration.ofDays(1));

  public static final ProgramCounts OFF = new ProgramCounts(0, Duration.ZERO);

  public ProgramCounts {
    if (newest < 0 || newest > MOST) {
      throw new IllegalArgumentException(
          "Copies of what the program writes: " + newest + " is not within 0 to " + MOST);
    }
    if (hourly.isNegative() || hourly.compareTo(LONGEST) > 0) {
      throw new IllegalArgumentException(
          "Hours of what the program writes: "
              + hourly.toHours()
              + " is not within 0 to "
              + LONGEST.toHours());
    }
  }

  public boolean on() {
    return newest > 0 || !hourly.isZero();
  }

  /** The rule for those copies; all others are left to the rule that is given. */
  KeepRule beside(KeepRule others, Instant now, ZoneId zone) {
    KeepRule own =
        KeepRules.any(
            List.of(
                KeepRules.newest(newest),
                KeepRules.lastOfEachHour(hourly, now, zone),
                KeepRules.marked()));
    return KeepRules.apart(KeepState::asWritten, own, others);
  }
}
