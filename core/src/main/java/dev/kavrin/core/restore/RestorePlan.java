package dev.kavrin.core.restore;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Abilities;
import dev.kavrin.core.disk.FileFacts;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.util.List;

/**
 * What a restore will do, worked out before anything is touched.
 *
 * @param source copy to restore from
 * @param content what that copy must hold
 * @param target file that will hold it
 * @param aside where the present file goes, null if nothing stands at the target
 * @param present what stands at the target now, null if nothing
 * @param presentFacts of it, taken before it was read
 * @param free room there now
 * @param like file whose owner and permissions a new one gets
 * @param abilities of the target's folder
 * @param cannotKeep what of owner and permissions this user may not give the file, in words
 */
public record RestorePlan(
    RestoreMode mode,
    Path source,
    ContentId content,
    Path target,
    @Nullable Path aside,
    @Nullable ContentId present,
    @Nullable FileFacts presentFacts,
    long free,
    Path like,
    Abilities abilities,
    List<String> cannotKeep) {

  /** Written to the target's drive for the new file alone. */
  public long bytes() {
    return content.length();
  }

  /** Needed on the target's drive, the copy of the present file included where one is made. */
  public long room() {
    boolean copied = presentFacts != null && !abilities.exchange() && !abilities.hardLinks();
    return content.length() + (copied ? presentFacts.size() : 0);
  }

  public boolean fits() {
    return free >= room();
  }

  /**
   * Changes whenever the plan would do something else; sent back on apply. From which of several
   * copies of one content it is done makes no difference.
   */
  public String digest() {
    return ContentHash.of(mode + "\0" + content + "\0" + target + "\0" + present).digest();
  }
}
