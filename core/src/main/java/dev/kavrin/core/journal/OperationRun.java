package dev.kavrin.core.journal;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import java.io.IOException;
import java.time.InstantSource;

/**
 * Does an operation within a backup folder while no other is done to its backups: written down,
 * done, ended. One that fails is finished or taken back at once, or at the next start.
 */
public final class OperationRun {
  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;

  public OperationRun(Disk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** What is done to files. */
  @FunctionalInterface
  public interface Deed {
    void run() throws IOException;
  }

  public void of(BackupFolder folder, Operation operation, Deed deed) throws IOException {
    folder.moving().lock();
    try {
      folder.begin(operation, clock.instant());
      deed.run();
      folder.done(operation, clock.instant());
    } catch (IOException | RuntimeException failed) {
      new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, clock)
          .finishOrTakeBack(operation, failed);
      throw failed;
    } finally {
      folder.moving().unlock();
    }
  }
}
