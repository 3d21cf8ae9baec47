package dev.kavrin.core.journal;

import com.fasterxml.jackson.annotation.JsonIgnore;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.version.SetRule.Role;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * One copy of Kavrin's in a recovery folder.
 *
 * @param document whose state it is
 * @param kind CAPTURE, SECURED or AS_WRITTEN
 * @param path relative to the recovery folder
 * @param state manifest digest
 * @param source where the bytes were read, an absolute path
 * @param sourceKind what stood there
 * @param workFrom earliest time of the work
 * @param workTo latest time of the work
 * @param sequence birth number among the document's copies
 * @param cause "due", "by hand", "secured"
 * @param note a person's words, or null
 * @param settled false if the file was being written meanwhile
 * @param role what it is in its run; null for the document's main file
 * @param leftOut what a light copy lacks, in words; empty for a full one
 * @param findings health in words when not whole
 * @param millis how long it took
 */
public record BackupRecord(
    UUID document,
    CopyKind kind,
    String path,
    String state,
    ContentId content,
    String source,
    CopyKind sourceKind,
    Instant workFrom,
    Instant workTo,
    long sequence,
    String cause,
    String note,
    boolean settled,
    Verdict verdict,
    String findings,
    long millis,
    @Nullable Role role,
    List<String> leftOut) {

  public BackupRecord {
    leftOut = leftOut == null ? List.of() : List.copyOf(leftOut);
  }

  /** True if this copy may be the last one standing. */
  public boolean protects() {
    return settled && verdict.trustworthy() && !isLight();
  }

  /** True if Kavrin saw it appear, so that its time tells when it was written. */
  @JsonIgnore
  public boolean wasSeenAsNew() {
    return sourceKind == CopyKind.LIVE || kind == CopyKind.AS_WRITTEN;
  }

  /** True if it holds less than the state it is of. */
  @JsonIgnore
  public boolean isLight() {
    return !leftOut.isEmpty();
  }

  /** The same bytes under another name, in a folder of their own. */
  public BackupRecord at(String otherPath) {
    return changed(otherPath, verdict, findings);
  }

  BackupRecord found(Verdict now, String why) {
    return changed(path, now, why);
  }

  private BackupRecord changed(String otherPath, Verdict now, String why) {
    return new BackupRecord(
        document,
        kind,
        otherPath,
        state,
        content,
        source,
        sourceKind,
        workFrom,
        workTo,
        sequence,
        cause,
        note,
        settled,
        now,
        why,
        millis,
        role,
        leftOut);
  }
}
