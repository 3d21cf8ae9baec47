package dev.kavrin.core.journal;

import java.time.Instant;
import java.util.UUID;

/**
 * What all backups on the disk that this folder lies on may take together, by a person's word,
 * those that wait in bins included.
 *
 * @param folder this one
 * @param bytes zero for no limit
 */
public record DiskRoomSet(Instant at, UUID folder, String who, long bytes)
    implements JournalEntry, Fact {
  @Override
  public UUID scope() {
    return folder;
  }

  /** As said last; zero for no limit. */
  public static long of(BackupFolder folder) {
    return folder.history().all(DiskRoomSet.class, folder.uuid()).stream()
        .mapToLong(DiskRoomSet::bytes)
        .findFirst()
        .orElse(0);
  }
}
