package dev.kavrin.core.recoverytest;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.RetainedLeftovers;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.plan.Pauses;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.watch.Watch;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * The engine itself, set up in a scratch folder on a simulated clock: a project with one document,
 * a recovery folder of its own, and the plan and the sheet that are to be proven.
 */
final class TestHarness {
  static final Duration LOOK = Duration.ofSeconds(1);
  private static final String NODE = "rehearsal";

  private final Path scratch;
  private final SimulatedClock clock;
  private final Plan plan;
  private final ProjectRecord project;
  private final Path live;
  private final Path elsewhere;
  private final BackupFolder keep;
  private final Watch watch;
  private final IncidentWatch incidents;
  private boolean alive = true;

  /**
   * What is set up again.
   *
   * @param path of the document in its project
   */
  record Rehearsed(ProjectRecord project, UUID document, String path) {}

  TestHarness(
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      Rehearsed what,
      Path scratch,
      Instant begin)
      throws IOException {
    this.scratch = scratch;
    this.clock = new SimulatedClock(begin);
    this.plan = what.project().planFor(what.document());
    Path work = scratch.resolve("work");
    Path root = scratch.resolve("keep");
    this.elsewhere = scratch.resolve("elsewhere");
    this.live = work.resolve(what.path());
    for (Path folder : List.of(live.getParent(), root, elsewhere)) {
      disk.makeFolders(folder);
    }
    UUID place = UUID.randomUUID();
    new FolderMarker(place, "RECOVERY", NODE, begin).write(disk, publisher, root);
    this.keep = BackupFolder.open(disk, root, place, NODE);
    ProjectRecord there = what.project();
    this.project =
        ProjectRecord.of(
                there.id(),
                there.name(),
                "rehearsal",
                work.toString(),
                there.rule(),
                inside(there.program()),
                plan.with(Pauses.NEVER),
                List.of(root.toString()),
                there.zone())
            .joining(there.rule(), there.sets());
    keep.record(new JournalEntry.ProjectSet(begin, "Kavrin", project));
    keep.record(new JournalEntry.DocumentSet(begin, what.document(), project.id(), what.path()));
    BackupFolders recoveries = BackupFolders.of(keep);
    BackupMaker maker = new BackupMaker(disk, publisher, inspector, recoveries, clock);
    Retention retention = new Retention(disk, publisher, recoveries, clock);
    this.watch = new Watch(disk, recoveries, maker, retention, w -> alive, clock, project);
    this.incidents =
        new IncidentWatch(
            disk,
            recoveries,
            new RetainedLeftovers(disk, publisher, maker),
            inspector,
            words -> alive,
            clock);
  }

  /** The sheet as far as it leads nowhere out of the scratch folder. */
  private static ProgramProfile inside(ProgramProfile sheet) {
    return new ProgramProfile(
        sheet.name(),
        NODE,
        sheet.sessionSign(),
        sheet.writesEvery(),
        sheet.leftovers().stream().filter(l -> l.folder().staysInside()).toList(),
        null,
        sheet.lockText(),
        sheet.crashLog() == null || sheet.crashLog().folder().staysInside()
            ? sheet.crashLog()
            : null,
        List.of());
  }

  Clockwork clock() {
    return clock;
  }

  ProjectRecord project() {
    return project;
  }

  /** The plan of the document as it is; in a rehearsal nobody says "not now". */
  Plan plan() {
    return plan;
  }

  Path scratch() {
    return scratch;
  }

  /** The folder that stands for the drive with the work. */
  Path work() {
    return Path.of(project.folder());
  }

  Path live() {
    return live;
  }

  /** A folder on what stands for another drive. */
  Path elsewhere() {
    return elsewhere;
  }

  BackupFolder keep() {
    return keep;
  }

  Watch watch() {
    return watch;
  }

  void pass(Duration time) throws IOException {
    for (Duration end = clock.running().plus(time); clock.running().compareTo(end) < 0; ) {
      look();
    }
  }

  private void look() throws IOException {
    clock.pass(LOOK);
    watch.tick();
    incidents.tick(project);
  }

  /** The program is gone; what it left is secured as after any crash. */
  void die() throws IOException {
    alive = false;
    for (int look = 0; look < 3; look++) {
      look();
    }
    incidents.secure(project);
  }
}
