package dev.kavrin.server.backup;

import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.LeftoverCleanup;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.replica.ReplicaSync;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.retention.Recheck;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.watch.Watch;
import java.util.function.Function;

/** A project under watch, with everything that acts on it. */
public record Kept(
    BackupFolders folders,
    ReplicaSync sync,
    Watch watch,
    IncidentWatch incidents,
    Retention retention,
    Recheck recheck,
    LeftoverCleanup cleanup,
    WorkLanes lanes,
    Function<BackupFolder, Restorer> restorers) {

  public ProjectRecord project() {
    return watch.project();
  }

  /** The backup folder to ask: the first that holds all there is. */
  public BackupFolder folder() {
    return folders.first();
  }

  public Restorer restorer() {
    return restorers.apply(folder());
  }
}
