package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;

/**
 * While any of these holds, Kavrin leaves a project's files alone; what was due is made up for
 * afterwards.
 *
 * @param process words in the command line of a process; empty for none
 * @param file name that stands while nothing should be read, a glob; relative to the project folder
 *     unless absolute; empty for none
 * @param growing while the document itself grows from one look to the next
 * @param limit how long after it was due a copy is made all the same; zero for never
 */
public record Pauses(String process, String file, boolean growing, Duration limit) {
  private static final Duration LONGEST = Duration.ofDays(7);
  public static final Pauses NEVER = new Pauses("", "", false, Duration.ZERO);

  public Pauses {
    process = process == null ? "" : process.strip();
    file = file == null ? "" : file.strip();
    limit = limit == null ? Duration.ZERO : limit;
    if (limit.isNegative() || limit.compareTo(LONGEST) > 0) {
      throw new IllegalArgumentException(
          "longest pause: " + limit.toSeconds() + " s is not within 0 to 604800 s");
    }
  }

  public boolean applies() {
    return !process.isEmpty() || !file.isEmpty() || growing;
  }

  /** The longest it can hold a copy back; zero if it never does, null without a limit. */
  @Nullable
  public Duration longestHold() {
    if (!applies()) {
      return Duration.ZERO;
    }
    return limit.isZero() ? null : limit;
  }
}
