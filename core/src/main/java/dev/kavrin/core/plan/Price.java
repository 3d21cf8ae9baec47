package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;

/**
 * What one copy costs.
 *
 * @param stall what it holds the person up; what they say, else the whole of {@code copying}, which
 *     is the most it can be
 * @param copying measured time of one copy in the background, null if none was made yet
 * @param bytes one copy takes in each recovery folder
 * @param said true if the person said the stall
 */
public record Price(
    @Nullable Duration stall, @Nullable Duration copying, long bytes, boolean said) {

  public static Price of(PlanInputs in, Reckoning reckoning) {
    boolean said = reckoning.stall() != null;
    return new Price(said ? reckoning.stall() : in.copyTime(), in.copyTime(), in.size(), said);
  }
}
