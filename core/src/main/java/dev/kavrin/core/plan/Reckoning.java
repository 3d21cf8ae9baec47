package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;

/**
 * What a person puts in place of what was measured.
 *
 * @param stall what one copy holds them up, null to take the measured time
 * @param crashEvery working time between crashes, null to take the incidents seen
 */
public record Reckoning(@Nullable Duration stall, @Nullable Duration crashEvery) {
  public static final Reckoning MEASURED = new Reckoning(null, null);
  private static final Duration LONGEST_STALL = Duration.ofHours(4);
  private static final Duration RAREST = Duration.ofDays(3650);

  public Reckoning {
    if (stall != null && (stall.isNegative() || stall.compareTo(LONGEST_STALL) > 0)) {
      throw new IllegalArgumentException(
          "held up by a copy: " + stall.toSeconds() + " s is not within 0 to 14400 s");
    }
    if (crashEvery != null
        && (crashEvery.compareTo(Duration.ofMinutes(1)) < 0 || crashEvery.compareTo(RAREST) > 0)) {
      throw new IllegalArgumentException(
          "time between crashes: "
              + crashEvery.toSeconds()
              + " s is not within a minute to ten years");
    }
  }
}
