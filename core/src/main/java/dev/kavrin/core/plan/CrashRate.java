package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;
import org.apache.commons.statistics.distribution.ChiSquaredDistribution;

/**
 * How often work is cut off, from the incidents seen in the hours worked.
 *
 * @param crashes seen; 0 for none
 * @param worked hours they fell into
 * @param every mean working time between two, null before the first
 * @param from lower end of its 95 % interval, null if nothing was worked yet
 * @param to upper end, null before the first crash
 * @param said true if a person said it instead
 */
public record CrashRate(
    int crashes,
    Duration worked,
    @Nullable Duration every,
    @Nullable Duration from,
    @Nullable Duration to,
    boolean said) {
  private static final double ALPHA = 0.05;

  /**
   * The interval for a constant rate: 2U/χ²(1 − α/2; 2n + 2) to 2U/χ²(α/2; 2n).
   *
   * <p>Source: NIST/SEMATECH e-Handbook of Statistical Methods, 8.4.5.1, exponential model.
   */
  public static CrashRate of(int crashes, Duration worked) {
    if (worked.isZero()) {
      return new CrashRate(crashes, worked, null, null, null, false);
    }
    Duration every = crashes == 0 ? null : worked.dividedBy(crashes);
    Duration from = scaled(worked, 2 / quantile(1 - ALPHA / 2, 2 * crashes + 2));
    Duration to = crashes == 0 ? null : scaled(worked, 2 / quantile(ALPHA / 2, 2 * crashes));
    return new CrashRate(crashes, worked, every, from, to, false);
  }

  /** What a person says, where nothing was seen yet or they know better. */
  public CrashRate orSaid(@Nullable Duration every) {
    return every == null ? this : new CrashRate(crashes, worked, every, every, every, true);
  }

  /** Whether anything tells how often. */
  public boolean isKnown() {
    return every != null;
  }

  private static double quantile(double p, int degrees) {
    return ChiSquaredDistribution.of(degrees).inverseCumulativeProbability(p);
  }

  private static Duration scaled(Duration time, double factor) {
    return Duration.ofMillis(Math.round(time.toMillis() * factor));
  }
}
