package dev.kavrin.server.backup;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.server.platform.PathGuard;
import java.io.IOException;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Settles what a stop left open in backup folders, as far as the work can be reached. */
final class FolderSettling {
  private static final Logger LOG = LoggerFactory.getLogger(FolderSettling.class);

  private final Disk disk;
  private final Publisher publisher;
  private final PathGuard guard;
  private final Clockwork clock;
  private final Attempts attempts;

  FolderSettling(
      Disk disk, Publisher publisher, PathGuard guard, Clockwork clock, Attempts attempts) {
    this.disk = disk;
    this.publisher = publisher;
    this.guard = guard;
    this.clock = clock;
    this.attempts = attempts;
  }

  /** At a start; what stays open, because a drive is away, is tried again at each look. */
  void settle(BackupFolder folder) throws IOException {
    tell(folder, recovery(folder).settle());
  }

  void settleWhatIsLeft(BackupFolder folder) throws IOException {
    if (!folder.leftOpen().isEmpty()) {
      tell(folder, recovery(folder).settleOpen());
    }
  }

  private JournalRecovery recovery(BackupFolder folder) {
    Reach reach = new WorkReach(disk, folder.history(), guard);
    return new JournalRecovery(disk, publisher, folder, reach, clock);
  }

  private void tell(BackupFolder folder, List<String> open) {
    attempts.run(
        "settling what a stop left open in " + folder.root(),
        () -> {
          if (!open.isEmpty()) {
            throw new IOException(String.join("; ", open));
          }
        });
  }

  boolean mayWatch(BackupFolder folder, ProjectRecord project) {
    boolean allowed = WorkReach.mayWatch(guard, project);
    if (!allowed) {
      LOG.warn(
          "The journal of {} names work in {}, which lies under no allowed root; it is not watched",
          folder.root(),
          project.folder());
    }
    return allowed;
  }
}
