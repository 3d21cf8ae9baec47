package dev.kavrin.core.replica;

import dev.kavrin.core.disk.Copying;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.retention.Scrub;
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

  private static final String NOT_WHAT_WAS_WRITTEN =
      "Read to bring it elsewhere: it is not what was written.";

  private final Disk disk;
  private final BackupArrival arrival;
  private final BackupFolders recoveries;
  private final FolderHours.Rests rests;
  private final InstantSource clock;
  private final Scrub scrub;

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
    this.arrival = new BackupArrival(disk, publisher, clock);
    this.recoveries = recoveries;
    this.clock = clock;
    this.scrub = new Scrub(disk, publisher, clock);
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
    to.record(from.history().facts(project).stream().filter(to.history()::isNews).toList());
  }

  /**
   * Item by item: a backup that cannot be read where it stands, or is not what was written, is
   * noted there and passed over; the others go on.
   *
   * @return false if more is left for the next helping
   * @throws IOException the folder that is to get them fails
   */
  private boolean copyMissing(BackupFolder from, BackupFolder to, UUID project) throws IOException {
    long left = HELPING;
    for (JournalEntry.DocumentSet document : from.history().documents(project)) {
      for (BackupRecord missing : missing(from, to, project, document.id())) {
        if (left <= 0) {
          return false;
        }
        if (scrub.isWhole(from, missing, NOT_WHAT_WAS_WRITTEN)) {
          recoveries.alone(document.id(), () -> copy(from, to, project, document.path(), missing));
          left -= missing.content().length();
        }
      }
    }
    return true;
  }

  /** What the plan keeps of both folders' copies and one lacks, or has only damaged, by birth. */
  private List<BackupRecord> missing(
      BackupFolder from, BackupFolder to, UUID project, UUID document) {
    List<BackupRecord> there =
        from.history().captures(document).stream()
            .filter(c -> !from.history().isFaulty(c.path()))
            .filter(c -> to.history().captures(document).stream().noneMatch(h -> serves(to, h, c)))
            .toList();
    if (there.isEmpty()) {
      return there;
    }
    Map<String, KeepState> states = new HashMap<>();
    new KeepInputs(from.history(), document).states().forEach(s -> states.put(s.id(), s));
    new KeepInputs(to.history(), document).states().forEach(s -> states.putIfAbsent(s.id(), s));
    ProjectRecord record = from.history().project(project).orElseThrow();
    KeepDecision decision =
        Retention.decide(
            record, document, from.history(), List.copyOf(states.values()), clock.instant());
    return there.stream().filter(c -> decision.kept().containsKey(c.state())).toList();
  }

  private static boolean serves(BackupFolder to, BackupRecord there, BackupRecord wanted) {
    return there.state().equals(wanted.state())
        && !to.history().isFaulty(there.path())
        && (there.settled() || !wanted.settled())
        && (there.protects() || !wanted.protects());
  }

  private void copy(
      BackupFolder from, BackupFolder to, UUID project, String documentPath, BackupRecord capture)
      throws IOException {
    ProjectRecord record = to.history().project(project).orElseThrow();
    Path source = from.absolute(capture.path());
    String path =
        capture.role() == null
            ? documentPath
            : RelativePath.of(record.folder(), Path.of(capture.source()));
    arrival.take(to, record, path, capture, sink -> Copying.copy(disk, source, sink));
  }
}
