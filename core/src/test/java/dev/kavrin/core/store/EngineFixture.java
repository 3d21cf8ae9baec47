package dev.kavrin.core.store;

import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.trail.CopyKind;
import dev.kavrin.core.trail.ProgramSheet;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** The whole engine over one document, on real files and a simulated clock. */
class EngineFixture implements Clockwork {
  static final UUID DOCUMENT = new UUID(2, 2);

  @TempDir Path root;

  final RealDisk disk = new RealDisk();
  final Publisher publisher = new Publisher(disk, "node");
  final HealthCheck health = new HealthCheck(disk);
  Instant now = Instant.parse("2031-03-03T09:00:00Z");
  Duration running = Duration.ofHours(1);
  boolean programRuns;
  Path live;
  List<RecoveryFolder> folders;
  Recoveries recoveries;
  RecoveryFolder recovery;
  CatchUp catchUp;
  Keeper keeper;
  Watch watch;
  IncidentWatch incidents;
  Restorer restorer;
  ProjectRecord project;

  @Override
  public Instant instant() {
    return now;
  }

  @Override
  public Duration running() {
    return running;
  }

  @BeforeEach
  void start() throws IOException {
    start(Plan.every(Duration.ofMinutes(10), Counts.newest(3), Duration.ofMinutes(15)), "keep");
  }

  /** Begins, or begins anew, with a plan and recovery folders of these names. */
  void start(Plan plan, String... keeps) throws IOException {
    if (Files.exists(root.resolve("work"))) {
      root = Files.createDirectories(root.resolve("anew"));
    }
    Path work = Files.createDirectories(root.resolve("work"));
    live = work.resolve("carriage-02.glb");
    folders = new ArrayList<>();
    for (String keep : keeps) {
      UUID uuid = new UUID(1, folders.size() + 1L);
      Path folder = Files.createDirectories(root.resolve(keep));
      new PlaceMarker(uuid, "RECOVERY", "node", now).write(disk, publisher, folder);
      folders.add(RecoveryFolder.open(disk, folder, uuid, "node"));
    }
    List<String> paths = folders.stream().map(f -> f.root().toString()).toList();
    project =
        ProjectRecord.of(
            new UUID(3, 3),
            "Carriage",
            "carriage",
            work.toString(),
            List.of("*.glb"),
            new ProgramSheet(
                "Modeller",
                "modeller",
                NamePattern.of(".{stem}.open"),
                null,
                List.of(
                    ProgramSheet.Leftover.of(CopyKind.AUTOSAVE, ".drafts", "{stem}~{n}.tmp"),
                    ProgramSheet.Leftover.of(CopyKind.RESCUE, ".drafts", "{stem}.rescue")),
                null),
            plan,
            paths,
            "UTC");
    Recoveries all = new Recoveries(folders);
    all.record(new JournalEntry.ProjectSet(now, "Ilse Quarn", project));
    all.record(new JournalEntry.DocumentSet(now, DOCUMENT, project.id(), "carriage-02.glb"));
    open();
  }

  /** As after a restart: everything from the journals. */
  void open() throws IOException {
    List<RecoveryFolder> again = new ArrayList<>();
    for (RecoveryFolder folder : folders) {
      again.add(RecoveryFolder.open(disk, folder.root(), folder.uuid(), "node"));
    }
    folders = again;
    recovery = folders.get(0);
    recoveries = new Recoveries(List.of(recovery));
    folders.stream().skip(1).forEach(recoveries::add);
    keeper = new Keeper(disk, publisher, recoveries, this);
    catchUp = new CatchUp(disk, publisher, recoveries, this);
    Capturer capturer = new Capturer(disk, publisher, health, recoveries, this);
    ProcessTable processes = words -> programRuns;
    watch = new Watch(disk, recoveries, capturer, keeper, processes, this, project);
    incidents = incidents(capturer, PlaceHours.Rests.NEVER);
    restorer = new Restorer(disk, publisher, health, recovery, this);
  }

  IncidentWatch incidents(Capturer capturer, PlaceHours.Rests rests) {
    Leftovers leftovers = new Leftovers(disk, publisher, capturer);
    return new IncidentWatch(
        disk, recoveries, leftovers, health, words -> programRuns, rests, this);
  }

  void change(Plan plan) {
    project = project.with(project.program(), plan);
    watch.change(project);
  }

  static byte[] model(int n) {
    GlbWriter writer = new GlbWriter();
    writer.mesh(
        "part",
        -1,
        new MeshData(new float[] {0, 0, 0, 1, 0, 0, 0, n, 1}, new int[] {0, 1, 2}),
        null,
        null,
        -1);
    return writer.bytes(Map.of("n", n));
  }

  void write(Path file, byte[] bytes) throws IOException {
    Files.createDirectories(file.getParent());
    Files.write(file, bytes);
    Files.setLastModifiedTime(file, FileTime.from(now));
  }

  void pass(Duration time) {
    for (Duration end = running.plus(time); running.compareTo(end) < 0; ) {
      wait(Duration.ofSeconds(15));
      look();
    }
  }

  void wait(Duration time) {
    now = now.plus(time);
    running = running.plus(time);
  }

  void look() {
    recoveries.look();
    catchUp.tick(project);
    watch.tick();
  }

  /** Pulls a recovery folder's drive: its mount point stays, empty. */
  void takeAway(int folder) throws IOException {
    Path mount = folders.get(folder).root();
    Files.move(mount, root.resolve("drive-" + folder));
    Files.createDirectories(mount);
  }

  void bringBack(int folder) throws IOException {
    Path mount = folders.get(folder).root();
    Files.delete(mount);
    Files.move(root.resolve("drive-" + folder), mount);
  }

  List<CaptureRecord> captures() {
    return captures(0);
  }

  List<CaptureRecord> captures(int folder) {
    return folders.get(folder).history().captures(DOCUMENT);
  }
}
