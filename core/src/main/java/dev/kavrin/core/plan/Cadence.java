package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.Optional;

/** When the next copy is due. Pure: everything it needs is handed in, on one steady clock. */
public final class Cadence {
  private Cadence() {}

  /** What to do at this moment. */
  public enum Step {
    /** Nothing is due. */
    WAIT,
    /** Due, but held back on purpose. */
    HELD,
    /** Copy, provided the file keeps still. */
    COPY,
    /** The hard limit is reached: copy what is there, even mid-write. */
    COPY_UNSETTLED
  }

  /**
   * How a document stands.
   *
   * @param changed earliest change no copy holds yet, null if there is none
   * @param wrote last write seen
   * @param handsOff one of the plan's reasons to stay away holds now
   * @param released when such a reason last ended, null if none ever held
   * @param asked a person waits for the write that came; nothing holds that copy back
   */
  public record Waiting(
      @Nullable Duration changed,
      Duration wrote,
      boolean handsOff,
      @Nullable Duration released,
      boolean asked) {}

  public static Step step(Plan plan, Waiting document, Duration now) {
    Optional<Duration> after = document.asked() ? Optional.of(Duration.ZERO) : plan.dueAfter();
    if (document.changed() == null || after.isEmpty()) {
      return Step.WAIT;
    }
    Duration due = document.changed().plus(after.get());
    if (now.compareTo(due) < 0) {
      return Step.WAIT;
    }
    Duration patience = due;
    if (document.handsOff() && !document.asked()) {
      Duration hold = plan.handsOff().longestHold();
      if (hold == null || now.compareTo(due.plus(hold)) < 0) {
        return Step.HELD;
      }
      patience = due.plus(hold);
    } else if (document.released() != null && document.released().compareTo(due) > 0) {
      patience = document.released();
    }
    if (now.compareTo(document.wrote().plus(plan.quiet())) >= 0) {
      return Step.COPY;
    }
    return now.compareTo(patience.plus(plan.hardLimit())) < 0 ? Step.WAIT : Step.COPY_UNSETTLED;
  }
}
