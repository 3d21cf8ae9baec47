package dev.kavrin.core.plan;

import java.time.Instant;

/** When the next copy is due. Pure: everything it needs is handed in. */
public final class Cadence {
  private Cadence() {}

  /** What to do at this moment. */
  public enum Step {
    /** Nothing is due. */
    WAIT,
    /** Copy, provided the file keeps still. */
    COPY,
    /** The hard limit is reached: copy what is there, even mid-write. */
    COPY_UNSETTLED
  }

  /**
   * @param firstChange earliest change no copy holds yet, null if there is none
   * @param lastWrite last write seen
   */
  public static Step step(Plan plan, Instant firstChange, Instant lastWrite, Instant now) {
    if (firstChange == null || !plan.timed()) {
      return Step.WAIT;
    }
    Instant due = firstChange.plus(plan.interval());
    if (now.isBefore(due)) {
      return Step.WAIT;
    }
    if (!now.isBefore(lastWrite.plus(plan.quiet()))) {
      return Step.COPY;
    }
    return now.isBefore(due.plus(plan.hardLimit())) ? Step.WAIT : Step.COPY_UNSETTLED;
  }
}
