package dev.kavrin.core.journal;

import dev.kavrin.core.chunk.ContentId;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * A copy in a store elsewhere, as it was found when it was last read back.
 *
 * @param store which one
 * @param object its name there, below the project's beginning
 * @param state whose bytes it holds
 * @param sha256 of them, lower-case hexadecimal
 * @param verified when it was last read back and was what was sent
 * @param fault why it does not count, in words; null if it does
 * @param leaving since when the rules no longer keep it; null if they do
 * @param refused what the store said when it was to be deleted; null if it did not refuse
 * @param gone true once it was deleted there
 */
public record CopyElsewhere(
    Instant at,
    UUID document,
    UUID store,
    String object,
    String state,
    ContentId content,
    String sha256,
    Instant verified,
    @Nullable String fault,
    @Nullable Instant leaving,
    @Nullable String refused,
    boolean gone)
    implements JournalEntry, Fact.OfDocument {
  @Override
  public List<Object> key() {
    return List.of(store, object);
  }

  /** Arrived, and read back. */
  public static CopyElsewhere arrived(
      Instant now, UUID store, String object, BackupRecord backup, String sha256) {
    return new CopyElsewhere(
        now,
        backup.document(),
        store,
        object,
        backup.state(),
        backup.content(),
        sha256,
        now,
        null,
        null,
        null,
        false);
  }

  /** True if it is there, as far as anybody has read. */
  public boolean counts() {
    return !gone && fault == null;
  }

  public CopyElsewhere readAgain(Instant now) {
    return changed(now, now, null, leaving, refused, false);
  }

  public CopyElsewhere faulty(Instant now, String words) {
    return changed(now, verified, words, leaving, refused, false);
  }

  /**
   * @param since null if the rules keep it again
   */
  public CopyElsewhere leaving(Instant now, @Nullable Instant since) {
    return changed(now, verified, fault, since, null, false);
  }

  public CopyElsewhere refused(Instant now, String words) {
    return changed(now, verified, fault, leaving, words, false);
  }

  public CopyElsewhere deleted(Instant now) {
    return changed(now, verified, fault, leaving, null, true);
  }

  private CopyElsewhere changed(
      Instant now,
      Instant read,
      @Nullable String why,
      @Nullable Instant since,
      @Nullable String no,
      boolean away) {
    return new CopyElsewhere(
        now, document, store, object, state, content, sha256, read, why, since, no, away);
  }
}
