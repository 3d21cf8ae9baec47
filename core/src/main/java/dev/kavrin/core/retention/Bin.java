package dev.kavrin.core.retention;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Operation;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.List;
import java.util.function.Predicate;

/** Where dropped copies wait before they are gone for good. Its bytes count as used room. */
public final class Bin {
  /** How long a dropped copy can be had back, unless its room is needed before. */
  static final Duration TIME = Duration.ofDays(14);

  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;

  public Bin(Disk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** Deletes what has waited for its whole time. */
  int empty(BackupFolder folder) throws IOException {
    Instant before = clock.instant().minus(TIME);
    return purge(folder, binned -> binned.since().isBefore(before));
  }

  /**
   * Deletes the oldest until so many bytes are free, as far as they go; tells what is free then.
   */
  public long makeRoom(BackupFolder folder, Path where, long bytes) throws IOException {
    long free = disk.room(where);
    while (free < bytes && purgeOldest(folder)) {
      free = disk.room(where);
    }
    return free;
  }

  private boolean purgeOldest(BackupFolder folder) throws IOException {
    History.Binned oldest =
        folder.history().bin().stream()
            .min(Comparator.comparing(History.Binned::since))
            .orElse(null);
    return oldest != null && purge(folder, binned -> binned.bin().equals(oldest.bin())) > 0;
  }

  private int purge(BackupFolder folder, Predicate<History.Binned> which) throws IOException {
    folder.moving().lock();
    try {
      List<History.Binned> going =
          folder.dropsPaused().get()
              ? List.of()
              : folder.history().bin().stream().filter(which).toList();
      for (History.Binned binned : going) {
        purge(folder, binned);
      }
      return going.size();
    } finally {
      folder.moving().unlock();
    }
  }

  private void purge(BackupFolder folder, History.Binned binned) throws IOException {
    Operation operation = Operation.of(new Operation.Purge(binned.bin()));
    Path file = folder.owned(binned.bin());
    folder.begin(operation, clock.instant());
    try {
      if (disk.facts(file).isPresent()) {
        publisher.purge(file);
      }
      folder.done(operation, clock.instant());
    } catch (IOException | RuntimeException failed) {
      folder.leftOpen(operation);
      throw failed;
    }
  }
}
