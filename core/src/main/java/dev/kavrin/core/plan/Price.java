package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;

/**
 * What one copy costs.
 *
 * @param stall what one autosave of the program's holds the person up, or one restart file a run;
 *     as they say, else as measured, null if neither
 * @param copying measured time of one backup in the background, null if none was made yet
 * @param bytes one backup takes in each backup folder
 * @param said true if the person said the stall
 * @param files of the program's that were measured
 */
public record Price(
    @Nullable Duration stall, @Nullable Duration copying, long bytes, boolean said, int files) {

  /** Of a program's own autosave. */
  public static Price ofProgram(PlanInputs in, Reckoning reckoning) {
    ProgramStall measured = in.stall();
    return of(
        in,
        reckoning,
        measured == null ? null : measured.time(),
        measured == null ? 0 : measured.files());
  }

  /** Of a restart file; a copy of it takes about as long as it took to write. */
  public static Price ofRun(PlanInputs in, Reckoning reckoning) {
    return of(in, reckoning, in.copyTime(), 0);
  }

  private static Price of(
      PlanInputs in, Reckoning reckoning, @Nullable Duration measured, int files) {
    boolean said = reckoning.stall() != null;
    return new Price(said ? reckoning.stall() : measured, in.copyTime(), in.size(), said, files);
  }
}
