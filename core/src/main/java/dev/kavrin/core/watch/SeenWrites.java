package dev.kavrin.core.watch;

import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import java.nio.file.Path;
import java.util.List;

/** What is known already of how a live file stands. */
final class SeenWrites {
  private SeenWrites() {}

  /**
   * True if the journal tells of that write. Of a run the last write noted may be that of a step,
   * later than the set-up's.
   */
  static boolean tells(JournalEntry.Written last, FileFacts now, boolean run) {
    return last.modified().equals(now.modified()) && last.size() == now.size()
        || run && last.modified().isAfter(now.modified());
  }

  /** True if a settled backup was made of the file as it stands. */
  static boolean isBackedUp(List<BackupRecord> backups, Path live, FileFacts now) {
    return backups.stream()
        .anyMatch(
            c ->
                c.settled()
                    && c.source().equals(live.toString())
                    && c.workTo().equals(now.modified())
                    && (c.isLight() || c.content().length() == now.size()));
  }
}
