package dev.kavrin.core.replica;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.retention.Bin;
import dev.kavrin.core.units.Moments;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;

/** Takes the bytes of a backup that is made already into one more folder. */
public final class BackupArrival {
  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;

  public BackupArrival(Disk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * @param documentPath of the file it is of, relative to the project folder
   * @param bytes where they come from
   * @throws IOException they are not what was written once, or the folder cannot take them; it is
   *     as before
   */
  public void take(
      BackupFolder to,
      ProjectRecord project,
      String documentPath,
      BackupRecord backup,
      Publisher.Filling bytes)
      throws IOException {
    Path target = target(to, project, documentPath, backup);
    long needed = backup.content().length() + BackupMaker.FLOOR;
    long free = new Bin(disk, publisher, clock).makeRoom(to, target.getParent(), needed);
    if (free < needed) {
      throw new NoRoomException(to.root(), needed, free);
    }
    Operation operation = Operation.of(new Operation.Backup(backup.at(to.relative(target))));
    try {
      publisher.publish(
          target,
          bytes,
          (stage, content) -> {
            if (!content.equals(backup.content())) {
              throw new IOException(
                  "What was read of " + backup.path() + " is not what was written there once");
            }
            disk.touch(stage, Moments.nanos(backup.workTo()));
            to.begin(operation, clock.instant());
          });
      to.done(operation, clock.instant());
    } catch (IOException | RuntimeException failed) {
      if (to.history().undone().contains(operation)) {
        new JournalRecovery(disk, publisher, to, Reach.EVERYWHERE, clock)
            .finishOrTakeBack(operation, failed);
      }
      throw failed;
    }
  }

  /** The name it has elsewhere, or the next free one. */
  private Path target(
      BackupFolder to, ProjectRecord project, String documentPath, BackupRecord backup)
      throws IOException {
    long next = to.nextSequence(project, documentPath, backup.document());
    Path same = to.nameFor(project, documentPath, backup.sequence(), backup.workTo());
    return disk.facts(same).isEmpty()
        ? same
        : to.nameFor(project, documentPath, next, backup.workTo());
  }
}
