package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.Map;

/**
 * What is known of a document when a plan is weighed.
 *
 * @param size bytes of one state
 * @param own how far apart the program's own writes lie, null if unknown
 * @param stall what the program's own autosaves hold a person up, null if none was measured
 * @param copyTime measured time of one copy, null if none was made yet
 * @param documents documents under the plan
 * @param places recovery folders that each get a copy
 * @param rates bytes a second each of them took lately, by its path; those not measured are left
 *     out
 * @param compacted what a compacted version takes, as a share of a plain one; null if none was
 *     compacted yet
 */
public record PlanInputs(
    long size,
    @Nullable OwnWrites own,
    @Nullable ProgramStall stall,
    @Nullable Duration copyTime,
    int documents,
    int places,
    Map<String, Long> rates,
    @Nullable Double compacted) {

  /** How far apart the program's own writes lie, null if unknown. */
  @Nullable
  public Duration programWrites() {
    return own == null ? null : own.apart();
  }
}
