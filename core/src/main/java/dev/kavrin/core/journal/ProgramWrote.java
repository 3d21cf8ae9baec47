package dev.kavrin.core.journal;

import dev.kavrin.core.profile.CopyKind;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * A program was seen to have written a copy of a document of its own accord.
 *
 * @param path whole, as it was then
 * @param millis from its first to its last byte, null where that is not told
 */
public record ProgramWrote(
    Instant at,
    UUID document,
    CopyKind kind,
    String path,
    Instant modified,
    long size,
    @Nullable Long millis)
    implements JournalEntry, Fact.OfDocument {
  @Override
  public List<Object> key() {
    return List.of(path, modified);
  }
}
