package dev.kavrin.core.retention;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.OperationRun;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.UUID;

/** Backups into the bin and back: journal first, then the name. */
final class Drops {
  static final String BEFORE_A_DROP =
      "Re-read before a drop: it is not what was written. Nothing was dropped.";

  private final Disk disk;
  private final Publisher publisher;
  private final Scrub rereading;
  private final OperationRun operations;

  Drops(Disk disk, Publisher publisher, Scrub rereading, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.rereading = rereading;
    this.operations = new OperationRun(disk, publisher, clock);
  }

  /** True if what protects the document was read again just now, whole. */
  boolean areSafe(BackupFolder folder, UUID document) throws IOException {
    List<BackupRecord> copies = new KeepInputs(folder.history(), document).protecting();
    for (BackupRecord copy : copies) {
      if (!rereading.isWhole(folder, copy, BEFORE_A_DROP)) {
        return false;
      }
    }
    return !copies.isEmpty();
  }

  void drop(BackupFolder folder, BackupRecord backup, String why) throws IOException {
    Path from = folder.owned(backup.path());
    Operation operation =
        Operation.of(new Operation.Drop(backup.path(), binned(folder, from), why));
    move(folder, operation, from, ((Operation.Drop) operation.planned()).bin());
  }

  /** Never longer than the former name, whatever that was. */
  private static String binned(BackupFolder folder, Path from) {
    return folder.relative(folder.bin().resolve(FileName.prefixed(UUID.randomUUID() + ".", from)));
  }

  /** What is gone already was dropped by somebody else; the journal says so too. */
  void move(BackupFolder folder, Operation operation, Path from, String to) throws IOException {
    operations.of(
        folder,
        operation,
        () -> {
          if (disk.facts(from).isPresent()) {
            publisher.move(from, folder.owned(to));
          }
        });
  }
}
