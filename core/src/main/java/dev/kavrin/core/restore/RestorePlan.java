package dev.kavrin.core.restore;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.FileFacts;
import java.nio.file.Path;

/**
 * What a restore will do, worked out before anything is touched.
 *
 * @param source copy to restore from
 * @param content what that copy must hold
 * @param target file that will hold it
 * @param aside where the present file goes, null if nothing stands at the target
 * @param present what stands at the target now, null if nothing
 * @param presentFacts of it, taken before it was read
 * @param bytes written to the target's drive
 * @param free room there now
 * @param like file whose permissions a new one gets
 */
public record RestorePlan(
    RestoreMode mode,
    Path source,
    ContentId content,
    Path target,
    Path aside,
    ContentId present,
    FileFacts presentFacts,
    long bytes,
    long free,
    Path like) {

  public boolean fits() {
    return free >= bytes;
  }

  /**
   * Changes whenever the plan would do something else; sent back on apply. From which of several
   * copies of one content it is done makes no difference.
   */
  public String digest() {
    return dev.kavrin.core.chunk.ContentHash.of(
            mode + "\0" + content + "\0" + target + "\0" + present)
        .digest();
  }
}
