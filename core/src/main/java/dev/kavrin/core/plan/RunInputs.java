package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;

/**
 * What is known of runs when a plan is weighed.
 *
 * @param step computing time of one step, null before two were seen
 * @param restart bytes of a restart file, 0 if none was seen
 * @param result bytes of a result, 0 if none was seen
 * @param steps steps of a whole run, as many as the longest so far had
 * @param runs documents that are runs
 * @param places recovery folders that each get a copy
 */
public record RunInputs(
    @Nullable Duration step, long restart, long result, long steps, int runs, int places) {}
