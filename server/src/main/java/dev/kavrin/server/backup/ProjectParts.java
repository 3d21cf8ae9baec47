package dev.kavrin.server.backup;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.compact.OlderVersions;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.incident.AsWritten;
import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.LeftoverCleanup;
import dev.kavrin.core.incident.RetainedLeftovers;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.offsite.OffsiteSync;
import dev.kavrin.core.offsite.Stores;
import dev.kavrin.core.pack.CompactedDisk;
import dev.kavrin.core.replica.ReplicaSync;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.retention.DiskRooms;
import dev.kavrin.core.retention.Recheck;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.watch.Watch;

/** Puts together what acts on a project. */
final class ProjectParts {
  private final CompactedDisk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final WorkHours hours;
  private final Stores stores;
  private final DiskRooms rooms;
  private final Clockwork clock;
  private final HostProcesses processes = new HostProcesses();

  ProjectParts(
      CompactedDisk disk,
      Publisher publisher,
      Inspector inspector,
      WorkHours hours,
      Stores stores,
      DiskRooms rooms,
      Clockwork clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.hours = hours;
    this.stores = stores;
    this.rooms = rooms;
    this.clock = clock;
  }

  Kept of(BackupFolder folder, ProjectRecord project, WorkLanes lanes) {
    BackupFolders folders = BackupFolders.of(folder);
    BackupMaker maker = new BackupMaker(disk, publisher, inspector, folders, clock);
    Retention retention = new Retention(disk, publisher, folders, rooms, clock);
    RetainedLeftovers leftovers = new RetainedLeftovers(disk, publisher, maker);
    return new Kept(
        folders,
        new ReplicaSync(disk, publisher, folders, hours, clock),
        new Watch(disk, folders, maker, retention, processes, hours, lanes, clock, project),
        new IncidentWatch(disk, folders, leftovers, inspector, processes, hours, lanes, clock),
        new AsWritten(disk, folders, leftovers, retention, lanes, clock),
        new OffsiteSync(disk, publisher, folders, stores, clock),
        new OlderVersions(disk, publisher, folders, hours, clock),
        retention,
        new Recheck(folders, inspector, clock),
        new LeftoverCleanup(disk, publisher, maker, clock),
        lanes,
        f -> new Restorer(disk, publisher, inspector, f, clock));
  }
}
