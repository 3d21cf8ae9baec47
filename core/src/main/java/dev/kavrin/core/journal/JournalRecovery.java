package dev.kavrin.core.journal;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;

/**
 * Brings a backup folder in order after Kavrin was stopped: every operation left open is looked up
 * on disk and finished as planned or taken back. One that cannot be looked up, because a drive is
 * away or a file cannot be read, stays open, is told, and keeps no other from being settled.
 * Running it again changes nothing.
 */
public final class JournalRecovery {
  private static final int DEEPEST = 30;

  private final Disk disk;
  private final Publisher publisher;
  private final BackupFolder folder;
  private final InstantSource clock;
  private final BackupSettlement backups;
  private final ReplacementSettlement replacements;

  public JournalRecovery(
      Disk disk, Publisher publisher, BackupFolder folder, Reach reach, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.folder = folder;
    this.clock = clock;
    this.backups = new BackupSettlement(disk, publisher, folder);
    this.replacements = new ReplacementSettlement(disk, publisher, folder, reach);
  }

  /** At a start: clears away what was not finished, then settles. */
  public List<String> settle() throws IOException {
    folder.requireHere();
    clearStages(folder.root(), 0);
    return settleOpen();
  }

  /** Settles what a stop left open; what stays open and why, in words. */
  public List<String> settleOpen() throws IOException {
    folder.requireHere();
    List<String> told = new ArrayList<>();
    for (Operation operation : folder.leftOpen()) {
      try {
        settle(operation, true, null);
      } catch (IOException | RuntimeException failed) {
        told.add(String.valueOf(failed.getMessage()));
      }
    }
    return told;
  }

  /**
   * Ends an operation that failed: everything is as it was before. Where that cannot be done now it
   * stays open, and the next start does it.
   */
  public void takeBack(Operation operation, Exception why) {
    try {
      Path others =
          why instanceof FileAlreadyExistsException taken ? folder.named(taken.getFile()) : null;
      settle(operation, false, others);
    } catch (IOException | RuntimeException second) {
      why.addSuppressed(second);
      folder.leftOpen(operation);
    }
  }

  /** Ends an operation that failed late: what was done already stays done. */
  public void finishOrTakeBack(Operation operation, Exception why) {
    try {
      settle(operation, true, null);
    } catch (IOException | RuntimeException second) {
      why.addSuppressed(second);
      folder.leftOpen(operation);
    }
  }

  private void settle(Operation operation, boolean mayFinish, @Nullable Path others)
      throws IOException {
    Operation.Planned planned = operation.planned();
    if (planned instanceof Operation.Restore restore) {
      settle(operation, restore, mayFinish, others);
    } else if (planned instanceof Operation.SettingsChange change) {
      settle(operation, change, mayFinish, others);
    } else {
      end(operation, backups.settle(planned));
    }
  }

  private void settle(
      Operation operation, Operation.Restore restore, boolean mayFinish, @Nullable Path others)
      throws IOException {
    replacements.requireReach(restore.members());
    if (mayFinish && replacements.areDone(restore.members())) {
      folder.done(operation.with(replacements.finished(restore)), clock.instant());
    } else {
      end(operation, replacements.takeBack(restore.members(), others));
    }
  }

  private void settle(
      Operation operation,
      Operation.SettingsChange change,
      boolean mayFinish,
      @Nullable Path others)
      throws IOException {
    Operation.Replacement file = replacements.of(change);
    replacements.requireReach(List.of(file));
    if (mayFinish && replacements.areDone(List.of(file))) {
      folder.done(operation, clock.instant());
    } else {
      end(operation, replacements.takeBack(List.of(file), others));
    }
  }

  private void end(Operation operation, Settled settled) throws IOException {
    if (settled.done()) {
      folder.done(operation, clock.instant());
    } else {
      folder.takenBack(operation, settled.told(), clock.instant());
    }
  }

  private void clearStages(Path in, int depth) throws IOException {
    publisher.clearStages(in);
    for (Path path : depth > DEEPEST ? List.<Path>of() : disk.list(in)) {
      if (disk.facts(path).filter(FileFacts::isFolder).isPresent()) {
        clearStages(path, depth + 1);
      }
    }
  }
}
