package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;

/**
 * When to remind somebody to save, for programs that never do so by themselves. Kavrin does not see
 * a program's memory: work counts as unsaved while the file may be open and nothing was written for
 * so long.
 *
 * @param written last write seen, null if none was
 * @param mayBeOpen whether its program may have it open
 * @param busy true while something is being written or the plan's hands-off holds; no moment to
 *     disturb
 * @param reminded last reminder since that write, null if there was none
 * @param putOff not before then, null if nobody asked for that
 */
public record Reminder(
    @Nullable Instant written,
    boolean mayBeOpen,
    boolean busy,
    @Nullable Instant reminded,
    @Nullable Instant putOff) {
  /** Common practice, no source: a quarter of an hour annoys. */
  private static final Duration NEVER_UNDER = Duration.ofMinutes(20);

  /** What to propose to somebody who accepts that loss. */
  public static Duration proposed(Duration accepted) {
    return accepted.compareTo(NEVER_UNDER) < 0 ? NEVER_UNDER : accepted;
  }

  /** True if this is the moment; it comes again each time as much has passed. */
  public boolean isDue(Duration after, Instant now) {
    if (after.isZero() || written == null || !mayBeOpen || busy) {
      return false;
    }
    Instant since = reminded == null || reminded.isBefore(written) ? written : reminded;
    return !now.isBefore(since.plus(after)) && (putOff == null || !now.isBefore(putOff));
  }
}
