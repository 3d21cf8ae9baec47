package dev.kavrin.core.replica;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.retention.Bin;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Moments;
import dev.kavrin.core.watch.FolderHours;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/**
 * Brings recovery folders that were away what they missed: facts first, then copies, oldest first,
 * read from a folder that has them. Works in small helpings and can be stopped between any two.
 */
public final class ReplicaSync {
  /** Copied in one go before the watch looks again. */
  private static final long HELPING = 256_000_000;

  private final Disk disk;
  private final Publisher publisher;
  private final BackupFolders recoveries;
  private final FolderHours.Rests rests;
  private final InstantSource clock;

  public ReplicaSync(
      Disk disk, Publisher publisher, BackupFolders recoveries, InstantSource clock) {
    this(disk, publisher, recoveries, FolderHours.Rests.NEVER, clock);
  }

  /** The same where places have hours of their own; one that rests is caught up when it may. */
  public ReplicaSync(
      Disk disk,
      Publisher publisher,
      BackupFolders recoveries,
      FolderHours.Rests rests,
      InstantSource clock) {
    this.rests = rests;
    this.disk = disk;
    this.publisher = publisher;
    this.recoveries = recoveries;
    this.clock = clock;
  }

  /** One helping for each folder that is behind and here. */
  public void tick(ProjectRecord project) {
    BackupFolder full = recoveries.first();
    for (BackupFolder folder : recoveries.all()) {
      boolean leaving = folder.root().toString().equals(project.leaving());
      boolean awake = rests.why(folder.root()).isEmpty() && rests.why(full.root()).isEmpty();
      if (folder != full && awake && !leaving && recoveries.behind(folder).isPresent()) {
        try {
          folder.requireHere();
          full.requireHere();
          if (bring(full, folder, project.id())) {
            recoveries.caughtUp(folder);
          }
        } catch (IOException failed) {
          recoveries.fellBehind(folder, failed.getMessage());
        }
      }
    }
  }

  /** Both ways: while one was away, either may have taken what the other lacks. */
  private boolean bring(BackupFolder full, BackupFolder folder, UUID project) throws IOException {
    tell(folder, full, project);
    tell(full, folder, project);
    if (!copyMissing(full, folder, project)) {
      return false;
    }
    try {
      return copyMissing(folder, full, project);
    } catch (IOException failed) {
      recoveries.caughtUp(folder);
      recoveries.fellBehind(full, failed.getMessage());
      return true;
    }
  }

  private static void tell(BackupFolder from, BackupFolder to, UUID project) throws IOException {
    for (JournalEntry fact : from.history().facts(project)) {
      if (to.history().isNews(fact)) {
        to.record(fact);
      }
    }
  }

  /** False if more is left for the next helping. */
  private boolean copyMissing(BackupFolder from, BackupFolder to, UUID project) throws IOException {
    long left = HELPING;
    for (JournalEntry.DocumentSet document : from.history().documents(project)) {
      for (BackupRecord missing : missing(from, to, project, document.id())) {
        if (left <= 0) {
          return false;
        }
        copy(from, to, project, document.path(), missing);
        left -= missing.content().length();
      }
    }
    return true;
  }

  /** What the plan keeps of both folders' copies and one lacks, or has only damaged, by birth. */
  private List<BackupRecord> missing(
      BackupFolder from, BackupFolder to, UUID project, UUID document) {
    List<BackupRecord> there =
        from.history().captures(document).stream()
            .filter(c -> to.history().captures(document).stream().noneMatch(h -> serves(h, c)))
            .toList();
    if (there.isEmpty()) {
      return there;
    }
    Map<String, KeepState> states = new HashMap<>();
    from.history().keepStates(document).forEach(s -> states.put(s.id(), s));
    to.history().keepStates(document).forEach(s -> states.putIfAbsent(s.id(), s));
    ProjectRecord record = from.history().project(project).orElseThrow();
    KeepDecision decision =
        Retention.decide(
            record, document, from.history(), List.copyOf(states.values()), clock.instant());
    return there.stream().filter(c -> decision.kept().containsKey(c.state())).toList();
  }

  private static boolean serves(BackupRecord held, BackupRecord wanted) {
    return held.state().equals(wanted.state())
        && (held.settled() || !wanted.settled())
        && (held.protects() || !wanted.protects());
  }

  private void copy(
      BackupFolder from, BackupFolder to, UUID project, String documentPath, BackupRecord capture)
      throws IOException {
    ProjectRecord record = to.history().project(project).orElseThrow();
    Path source = from.absolute(capture.path());
    String path =
        capture.role() == null
            ? documentPath
            : Path.of(record.folder()).relativize(Path.of(capture.source())).toString();
    Path target = target(to, record, path, capture);
    long needed = capture.content().length() + BackupMaker.FLOOR;
    long free = new Bin(disk, publisher, clock).makeRoom(to, target.getParent(), needed);
    if (free < needed) {
      throw new NoRoomException(to.root(), needed, free);
    }
    UUID op = UUID.randomUUID();
    to.record(
        new JournalEntry.Intent(
            clock.instant(),
            op,
            capture.kind() == CopyKind.SECURED
                ? JournalEntry.Deed.SECURE
                : JournalEntry.Deed.CAPTURE,
            capture.document(),
            capture.source(),
            to.relative(target),
            null));
    try {
      publisher.publish(
          target,
          sink -> Copying.copy(disk, source, sink),
          (stage, content) -> {
            if (!content.equals(capture.content())) {
              throw new IOException(source + " is not what was written there");
            }
            disk.touch(stage, Moments.nanos(capture.workTo()));
          });
    } catch (IOException failed) {
      to.record(new JournalEntry.Abandoned(clock.instant(), op, failed.getMessage()));
      throw failed;
    }
    to.record(new JournalEntry.Captured(clock.instant(), op, capture.at(to.relative(target))));
  }

  /** The name it has elsewhere, or the next free one. */
  private Path target(
      BackupFolder to, ProjectRecord project, String documentPath, BackupRecord capture)
      throws IOException {
    long next = to.nextSequence(project, documentPath, capture.document());
    Path same = to.nameFor(project, documentPath, capture.sequence(), capture.workTo());
    return disk.facts(same).isEmpty()
        ? same
        : to.nameFor(project, documentPath, next, capture.workTo());
  }
}
