package dev.kavrin.core.backup;

import com.fasterxml.jackson.annotation.JsonIgnore;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;

/**
 * How a run stands.
 *
 * @param run of the newest step on disk
 * @param step the newest on disk
 * @param heldRun run of the newest step that can be gone on from, null if copies hold none
 * @param heldWritten when that was written
 * @param told what is the matter with the newest step, in words
 */
public record RunStatus(
    long run,
    long step,
    Instant written,
    @Nullable Long heldRun,
    @Nullable Long heldStep,
    @Nullable Instant heldWritten,
    List<String> told) {

  /** True if nothing of the run would be lost with its files. */
  @JsonIgnore
  public boolean isHeld() {
    return heldWritten != null && !heldWritten.isBefore(written);
  }
}
