package dev.kavrin.server.offsite;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.offsite.OffsiteSync.Standing;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;

/**
 * How it stands with a store elsewhere.
 *
 * @param problem why nothing is sent, in words; null if all goes well
 * @param answered when it last answered; null if it did not since Kavrin started
 * @param sending the backup that is being sent; null if none is
 * @param copies that are there and were read back
 * @param bytes they take there
 * @param waiting backups that are to be sent
 * @param waitingBytes of them
 * @param verified when the copy that was read back longest ago was; null if there are none
 * @param faults copies there that count for nothing, in words
 */
record StoreView(
    StoreAddress store,
    @Nullable String problem,
    @Nullable Instant answered,
    @Nullable String sending,
    int copies,
    long bytes,
    int waiting,
    long waitingBytes,
    @Nullable Instant verified,
    List<String> faults) {
  private static final int TOLD = 20;

  static StoreView of(Standing standing) {
    List<CopyElsewhere> counting =
        standing.copies().stream().filter(CopyElsewhere::counts).toList();
    return new StoreView(
        standing.store(),
        standing.problem(),
        standing.answered(),
        standing.sending(),
        counting.size(),
        counting.stream().mapToLong(c -> c.content().length()).sum(),
        standing.waiting().size(),
        standing.waiting().stream().map(BackupRecord::content).mapToLong(c -> c.length()).sum(),
        counting.stream().map(CopyElsewhere::verified).min(Comparator.naturalOrder()).orElse(null),
        standing.copies().stream()
            .filter(c -> c.fault() != null || c.refused() != null)
            .map(c -> c.object() + ": " + (c.fault() != null ? c.fault() : "kept: " + c.refused()))
            .limit(TOLD)
            .toList());
  }
}
