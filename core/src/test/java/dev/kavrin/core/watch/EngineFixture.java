package dev.kavrin.core.watch;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.RetainedLeftovers;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.CrashLog;
import dev.kavrin.core.profile.LockText;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.replica.ReplicaSync;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** The whole engine over one document, on real files and a simulated clock. */
public class EngineFixture implements Clockwork {
  public static final UUID DOCUMENT = new UUID(2, 2);

  @TempDir public Path root;

  public final RealDisk disk = new RealDisk();
  public final Publisher publisher = new Publisher(disk, "node");
  public final HealthCheck health = new HealthCheck(disk);
  public Instant now = Instant.parse("2031-03-03T09:00:00Z");
  public Duration running = Duration.ofHours(1);
  public boolean programRuns;

  /** Processor time of the program; null where the host does not tell. */
  public Duration used;

  public String boot = "first";
  public Path live;
  public List<BackupFolder> folders;
  public BackupFolders recoveries;
  public BackupFolder recovery;
  public ReplicaSync catchUp;
  public Retention keeper;
  public Watch watch;
  public IncidentWatch incidents;
  public Restorer restorer;
  public ProjectRecord project;

  @Override
  public Instant instant() {
    return now;
  }

  @Override
  public Duration running() {
    return running;
  }

  @BeforeEach
  public void start() throws IOException {
    start(Plan.every(Duration.ofMinutes(10), Counts.newest(3), Duration.ofMinutes(15)), "keep");
  }

  /** Begins, or begins anew, with a plan and recovery folders of these names. */
  public void start(Plan plan, String... keeps) throws IOException {
    if (Files.exists(root.resolve("work"))) {
      root = Files.createDirectories(root.resolve("anew"));
    }
    Path work = Files.createDirectories(root.resolve("work"));
    live = work.resolve("carriage-02.glb");
    folders = new ArrayList<>();
    for (String keep : keeps) {
      UUID uuid = new UUID(1, folders.size() + 1L);
      Path folder = Files.createDirectories(root.resolve(keep));
      new FolderMarker(uuid, "RECOVERY", "node", now).write(disk, publisher, folder);
      folders.add(BackupFolder.open(disk, folder, uuid, "node"));
    }
    List<String> paths = folders.stream().map(f -> f.root().toString()).toList();
    project =
        ProjectRecord.of(
            new UUID(3, 3),
            "Carriage",
            "carriage",
            work.toString(),
            List.of("*.glb"),
            new ProgramProfile(
                "Modeller",
                "modeller",
                NamePattern.of(".{stem}.open"),
                null,
                List.of(
                    ProgramProfile.Leftover.of(CopyKind.AUTOSAVE, ".drafts", "{stem}~{n}.tmp"),
                    ProgramProfile.Leftover.of(CopyKind.RESCUE, ".drafts", "{stem}.rescue")),
                null),
            plan,
            paths,
            "UTC");
    BackupFolders all = new BackupFolders(folders);
    all.record(new JournalEntry.ProjectSet(now, "Ilse Quarn", project));
    all.record(new JournalEntry.DocumentSet(now, DOCUMENT, project.id(), "carriage-02.glb"));
    open();
  }

  /** As after a restart: everything from the journals. */
  public void open() throws IOException {
    List<BackupFolder> again = new ArrayList<>();
    for (BackupFolder folder : folders) {
      again.add(BackupFolder.open(disk, folder.root(), folder.uuid(), "node"));
    }
    folders = again;
    recovery = folders.get(0);
    recoveries = new BackupFolders(List.of(recovery));
    folders.stream().skip(1).forEach(recoveries::add);
    keeper = new Retention(disk, publisher, recoveries, this);
    catchUp = new ReplicaSync(disk, publisher, recoveries, this);
    BackupMaker capturer = new BackupMaker(disk, publisher, health, recoveries, this);
    watch = new Watch(disk, recoveries, capturer, keeper, host(), this, project);
    incidents = incidents(capturer, FolderHours.Rests.NEVER);
    restorer = new Restorer(disk, publisher, health, recovery, this);
  }

  public IncidentWatch incidents(BackupMaker capturer, FolderHours.Rests rests) {
    RetainedLeftovers leftovers = new RetainedLeftovers(disk, publisher, capturer);
    return new IncidentWatch(disk, recoveries, leftovers, health, host(), rests, Lanes.HERE, this);
  }

  private Processes host() {
    return new Processes() {
      @Override
      public boolean runs(String words) {
        return programRuns;
      }

      @Override
      public Optional<Duration> used(String words) {
        return Optional.ofNullable(used);
      }

      @Override
      public String name() {
        return "node";
      }

      @Override
      public String boot() {
        return boot;
      }
    };
  }

  /** More is known of the program: what stands in its lock file, where it logs crashes. */
  public void describe(@Nullable LockText lockText, @Nullable CrashLog crashLog) {
    ProgramProfile known = project.program();
    project =
        project.with(
            new ProgramProfile(
                known.name(),
                known.process(),
                known.sessionSign(),
                known.writesEvery(),
                known.leftovers(),
                known.settings(),
                lockText,
                crashLog,
                known.ownFiles()),
            project.plan());
  }

  public void change(Plan plan) {
    project = project.with(project.program(), plan);
    watch.change(project);
  }

  public static byte[] model(int n) {
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

  /** A model of triangles anywhere, 48 bytes each. */
  public static byte[] heavy(Random random, int triangles) {
    float[] points = new float[triangles * 9];
    int[] corners = new int[triangles * 3];
    for (int i = 0; i < points.length; i++) {
      points[i] = random.nextFloat();
    }
    for (int i = 0; i < corners.length; i++) {
      corners[i] = i;
    }
    GlbWriter writer = new GlbWriter();
    writer.mesh("part", -1, new MeshData(points, corners), null, null, -1);
    return writer.bytes(Map.of());
  }

  public void write(Path file, byte[] bytes) throws IOException {
    Files.createDirectories(file.getParent());
    Files.write(file, bytes);
    Files.setLastModifiedTime(file, FileTime.from(now));
  }

  public void pass(Duration time) {
    for (Duration end = running.plus(time); running.compareTo(end) < 0; ) {
      wait(Duration.ofSeconds(15));
      look();
    }
  }

  public void wait(Duration time) {
    now = now.plus(time);
    running = running.plus(time);
  }

  public void look() {
    recoveries.look();
    catchUp.tick(project);
    watch.tick();
  }

  /** Pulls a recovery folder's drive: its mount point stays, empty. */
  public void takeAway(int folder) throws IOException {
    Path mount = folders.get(folder).root();
    Files.move(mount, root.resolve("drive-" + folder));
    Files.createDirectories(mount);
  }

  public void bringBack(int folder) throws IOException {
    Path mount = folders.get(folder).root();
    Files.delete(mount);
    Files.move(root.resolve("drive-" + folder), mount);
  }

  public List<BackupRecord> captures() {
    return captures(0);
  }

  public List<BackupRecord> captures(int folder) {
    return folders.get(folder).history().captures(DOCUMENT);
  }
}
