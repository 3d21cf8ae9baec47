package dev.kavrin.core.retention;

import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Reads again what could not be read when it was backed up, because a reader ran out of time or a
 * drive went: what is then known of it is written down. Ever more rarely the more often in vain.
 */
public final class Recheck {
  private static final Duration FIRST = Duration.ofMinutes(1);
  private static final Duration RARELY = Duration.ofDays(1);

  private final BackupFolders folders;
  private final Inspector inspector;
  private final Clockwork clock;
  private final Map<String, Tried> tried = new ConcurrentHashMap<>();

  private record Tried(Duration next, Duration pause) {}

  public Recheck(BackupFolders folders, Inspector inspector, Clockwork clock) {
    this.folders = folders;
    this.inspector = inspector;
    this.clock = clock;
  }

  /** Reads one of each folder, if one is due. */
  public void one() throws IOException {
    for (BackupFolder folder : folders.current()) {
      Optional<BackupRecord> due =
          folder.history().allCaptures().stream()
              .filter(b -> b.verdict() == Verdict.NOT_CHECKED && isDue(key(folder, b)))
              .findFirst();
      if (due.isPresent()) {
        read(folder, due.get());
      }
    }
  }

  private void read(BackupFolder folder, BackupRecord backup) throws IOException {
    HealthReport report = inspector.inspect(folder.absolute(backup.path()), name(folder, backup));
    if (report.verdict() == Verdict.NOT_CHECKED) {
      tried.compute(key(folder, backup), (k, before) -> later(before));
      return;
    }
    tried.remove(key(folder, backup));
    folder.record(
        new JournalEntry.Judged(clock.instant(), backup.path(), report.verdict(), report.reason()));
  }

  /** Its proper name: the document's, whatever copy of it was backed up. */
  private static String name(BackupFolder folder, BackupRecord backup) {
    String path =
        backup.role() != null
            ? backup.source()
            : folder
                .history()
                .document(backup.document())
                .map(JournalEntry.DocumentSet::path)
                .orElse(backup.source());
    return Path.of(path).getFileName().toString();
  }

  private Tried later(Tried before) {
    Duration pause = before == null ? FIRST : before.pause().multipliedBy(2);
    Duration kept = pause.compareTo(RARELY) > 0 ? RARELY : pause;
    return new Tried(clock.running().plus(kept), kept);
  }

  private boolean isDue(String key) {
    Tried before = tried.get(key);
    return before == null || clock.running().compareTo(before.next()) >= 0;
  }

  private static String key(BackupFolder folder, BackupRecord backup) {
    return folder.uuid() + " " + backup.path();
  }
}
