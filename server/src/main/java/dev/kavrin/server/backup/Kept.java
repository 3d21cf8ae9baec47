package dev.kavrin.server.backup;

import dev.kavrin.core.compact.OlderVersions;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.incident.AsWritten;
import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.LeftoverCleanup;
import dev.kavrin.core.incident.OpenDocument;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.offsite.OffsiteSync;
import dev.kavrin.core.replica.ReplicaSync;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.retention.DiskRooms;
import dev.kavrin.core.retention.Recheck;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.retention.SharedRoom;
import dev.kavrin.core.watch.Watch;
import java.nio.file.Path;
import java.util.Collection;
import java.util.List;
import java.util.UUID;
import java.util.function.Function;
import java.util.function.Supplier;

/** A project under watch, with everything that acts on it. */
public record Kept(
    BackupFolders folders,
    ReplicaSync sync,
    Watch watch,
    IncidentWatch incidents,
    AsWritten asWritten,
    OffsiteSync offsite,
    OlderVersions older,
    Retention retention,
    Recheck recheck,
    LeftoverCleanup cleanup,
    WorkLanes lanes,
    Function<BackupFolder, Restorer> restorers) {

  /** What limits the room of the disks that projects have backups on. */
  public static DiskRooms rooms(Disk disk, Supplier<Collection<Kept>> all) {
    return new DiskRooms(
        disk, () -> all.get().stream().flatMap(kept -> kept.holdings().stream()).toList());
  }

  private List<SharedRoom.Holding> holdings() {
    return folders.all().stream()
        .map(folder -> new SharedRoom.Holding(folders, folder, project()))
        .toList();
  }

  public ProjectRecord project() {
    return watch.project();
  }

  /** The backup folder to ask: the first that holds all there is. */
  public BackupFolder folder() {
    return folders.first();
  }

  /** Where its documents stand, or stood. */
  public List<Path> livePaths() {
    return folders.livePaths(project());
  }

  /** Whether a document is open, as of the last look. */
  public OpenNow open(UUID document) {
    OpenDocument open = incidents.open(document);
    boolean runs = incidents.programRuns(project());
    return new OpenNow(open.state(), open.evidence(), open.isHere() || open.mayBeHere() && runs);
  }

  /**
   * Whether a document is open.
   *
   * @param evidence what says so, in words
   * @param mayHoldWork true if a program of this machine may hold work of it that is in no file
   */
  public record OpenNow(OpenDocument.State state, List<String> evidence, boolean mayHoldWork) {
    /** A project nobody watches. */
    public static final OpenNow UNKNOWN =
        new OpenNow(OpenDocument.State.UNKNOWN, List.of("nobody watches this project"), false);
  }

  public Restorer restorer() {
    return restorers.apply(folder());
  }
}
