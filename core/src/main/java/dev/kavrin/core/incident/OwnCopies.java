package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.incident.Leftovers.Leftover;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProgramWrote;
import dev.kavrin.core.journal.ProjectRecord;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/**
 * Notes what a program writes of its own accord while it has a document open: when, how much, and
 * how long it took. The notes outlive the copies, so that figures of the past count those, too.
 */
final class OwnCopies {
  private static final Duration EVERY = Duration.ofSeconds(5);

  /** A file younger than that may still be written. */
  private static final Duration SETTLES = Duration.ofSeconds(2);

  private final Disk disk;
  private final BackupFolders folders;
  private final InstantSource clock;
  private final Map<UUID, Instant> looked = new HashMap<>();
  private final Map<Path, Instant> noted = new HashMap<>();

  OwnCopies(Disk disk, BackupFolders folders, InstantSource clock) {
    this.disk = disk;
    this.folders = folders;
    this.clock = clock;
  }

  /** Looks at one document's, no more than every few seconds. */
  void look(ProjectRecord project, JournalEntry.DocumentSet document) throws IOException {
    Instant now = clock.instant();
    Instant last = looked.get(document.id());
    if (last != null && Duration.between(last, now).abs().compareTo(EVERY) < 0) {
      return;
    }
    if (last == null) {
      folders
          .history()
          .programWrote(document.id())
          .forEach(w -> noted.merge(Path.of(w.path()), w.modified(), OwnCopies::later));
    }
    looked.put(document.id(), now);
    for (Leftover l :
        Leftovers.find(disk, project, document.id(), document.path(), folders.livePaths(project))) {
      Instant written = l.facts().modified();
      boolean rests = written.isBefore(now.minus(SETTLES));
      if (rests && !written.equals(noted.get(l.path()))) {
        folders.record(
            new ProgramWrote(
                now,
                document.id(),
                l.kind(),
                l.path().toString(),
                written,
                l.facts().size(),
                millis(l)));
        noted.put(l.path(), written);
      }
    }
  }

  private static Instant later(Instant a, Instant b) {
    return a.isAfter(b) ? a : b;
  }

  /** Of one written anew; what is written over in place does not tell when that was begun. */
  @Nullable
  private Long millis(Leftover left) throws IOException {
    Optional<Instant> born = disk.born(left.path());
    return born.map(b -> Duration.between(b, left.facts().modified()).toMillis())
        .filter(t -> t >= 0)
        .orElse(null);
  }
}
