package dev.kavrin.core.incident;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Span;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.UUID;

/**
 * Takes away what a program left lying, one file at a time and only on a person's word: its bytes
 * are copied into the recovery folders first, so that it can be had back until its copy leaves the
 * bin.
 */
public final class LeftoverCleanup {
  private final Disk disk;
  private final Publisher publisher;
  private final BackupMaker maker;
  private final InstantSource clock;

  public LeftoverCleanup(Disk disk, Publisher publisher, BackupMaker maker, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.maker = maker;
    this.clock = clock;
  }

  /**
   * Copies a leftover, then takes it away.
   *
   * @param leftover as it was shown
   * @throws NoSuchFileException it vanished
   * @throws SourceException it is being written, or is not what was shown; it stays
   */
  public void clear(ProjectRecord project, Leftovers.Leftover leftover, String who)
      throws IOException {
    Path file = leftover.path();
    FileFacts now = disk.facts(file).orElseThrow(() -> new NoSuchFileException(file.toString()));
    if (!now.sameAs(leftover.facts())) {
      throw new SourceException.StillWritten(file);
    }
    BackupMaker.Result copy =
        maker.capture(
            new BackupOrder(
                project,
                leftover.document(),
                leftover.documentPath(),
                file,
                file,
                leftover.kind(),
                CopyKind.CAPTURE,
                Span.at(now.modified()),
                "cleared out by " + who,
                null,
                null,
                BackupOrder.How.ANY_HEALTH));
    takeAway(leftover, copy);
  }

  private void takeAway(Leftovers.Leftover leftover, BackupMaker.Result copy) throws IOException {
    Path file = leftover.path();
    UUID id = UUID.randomUUID();
    Path aside = RetainedNames.of(file, id);
    BackupFolder folder = copy.folder();
    Operation operation =
        new Operation(
            id,
            new Operation.ClearLeftover(
                leftover.document(), file.toString(), aside.toString(), copy.capture().path()));
    folder.begin(operation, clock.instant());
    try {
      if (!publisher.clear(file, aside, copy.file())) {
        throw new SourceException.StillWritten(file);
      }
      folder.done(operation, clock.instant());
    } catch (IOException | RuntimeException failed) {
      new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, clock)
          .takeBack(operation, failed);
      throw failed;
    }
  }
}
