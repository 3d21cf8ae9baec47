package dev.kavrin.core.plan;

import java.time.Duration;
import java.time.Instant;

/**
 * What would be lost at this moment. Kavrin sees files, not a program's memory, so there are two
 * answers.
 *
 * @param programDies work since the newest intact content on disk; null if nothing tells
 * @param fileLost work since the newest intact copy other than the live file; null without one
 * @param quiet true while no unsaved work is plausible; both are zero then
 */
public record Exposure(Duration programDies, Duration fileLost, boolean quiet) {

  /**
   * @param lastOnDisk work time of the newest intact content anywhere, null if none
   * @param lastElsewhere work time of the newest intact copy besides the live file, null if none
   * @param liveIsHeld true if the live file's own content is held elsewhere
   * @param mayBeOpen true while its program may have it open
   */
  public static Exposure now(
      Instant now,
      Instant lastOnDisk,
      Instant lastElsewhere,
      boolean liveIsHeld,
      boolean mayBeOpen) {
    Duration sinceDisk = since(lastOnDisk, now);
    if (liveIsHeld && !mayBeOpen) {
      return new Exposure(Duration.ZERO, Duration.ZERO, true);
    }
    if (!mayBeOpen) {
      Duration onlyHere =
          lastElsewhere == null || lastOnDisk == null ? null : since(lastElsewhere, lastOnDisk);
      return new Exposure(Duration.ZERO, onlyHere, false);
    }
    return new Exposure(sinceDisk, since(lastElsewhere, now), false);
  }

  private static Duration since(Instant then, Instant now) {
    if (then == null) {
      return null;
    }
    Duration age = Duration.between(then, now);
    return age.isNegative() ? Duration.ZERO : age;
  }
}
