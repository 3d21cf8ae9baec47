package dev.kavrin.server.backup;

import static org.awaitility.Awaitility.await;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.host.Instance;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.incident.OpenDocument;
import dev.kavrin.core.incident.RetainedLeftovers;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.CrashLog;
import dev.kavrin.core.profile.FolderPattern;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.server.Patience;
import jakarta.annotation.Nullable;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/**
 * A machine with real processes and real files on which Kavrin watches; it may be cut off, and so
 * may the machine: another boot is told through the port, as after a power cut.
 */
final class Workstation implements AutoCloseable {
  private static final int LOOKS = 3;

  final Path work;
  final UUID chassis = new UUID(2, 1);
  final UUID roof = new UUID(2, 2);
  private final String name = "modeller-" + UUID.randomUUID().toString().substring(0, 8);
  private final RealDisk disk = new RealDisk();
  private final Path keep;
  private final Path script;
  private final Clockwork clock = Clockwork.steady(Instant::now);
  private final List<Process> started = new ArrayList<>();
  private ProjectRecord project;
  private BackupFolders folders;
  private IncidentWatch watch;
  private String boot = "first";

  Workstation(Path root, Path script) throws IOException {
    this.script = script;
    this.work = Files.createDirectories(root.resolve("work"));
    this.keep = Files.createDirectories(root.resolve("keep"));
    new FolderMarker(new UUID(1, 1), "RECOVERY", "node", Instant.now())
        .write(disk, new Publisher(disk, "node"), keep);
    write("chassis.glb", model(1), Duration.ofMinutes(10));
    write("roof.glb", model(2), Duration.ofMinutes(10));
    describe(NamePattern.of(".{stem}.open"), null);
    start();
    folders.record(new JournalEntry.ProjectSet(Instant.now(), "Ilse Quarn", project));
    folders.record(
        new JournalEntry.DocumentSet(Instant.now(), chassis, project.id(), "chassis.glb"));
    folders.record(new JournalEntry.DocumentSet(Instant.now(), roof, project.id(), "roof.glb"));
    look();
  }

  /** A program that leaves no lock files. */
  Workstation withoutLocks() {
    describe(null, null);
    return this;
  }

  /** A program that writes down in {@code logs} that it crashed. */
  Workstation loggingCrashes() {
    describe(
        NamePattern.of(".{stem}.open"),
        new CrashLog(FolderPattern.of("logs"), NamePattern.of("session-{n}.log"), "fatal"));
    return this;
  }

  /** A program nobody described. */
  Workstation undescribed() {
    project = project.with(ProgramProfile.UNKNOWN, project.plan());
    return this;
  }

  private void describe(@Nullable NamePattern lock, @Nullable CrashLog crashLog) {
    ProgramProfile program =
        new ProgramProfile(
            "Modeller",
            name,
            lock,
            null,
            List.of(
                ProgramProfile.Leftover.of(CopyKind.AUTOSAVE, ".drafts", "{stem}~{n}.tmp"),
                ProgramProfile.Leftover.of(CopyKind.RESCUE, ".drafts", "{stem}.rescue")),
            null,
            null,
            crashLog,
            List.of());
    project =
        project != null
            ? project.with(program, project.plan())
            : ProjectRecord.of(
                new UUID(3, 3),
                "Carriage",
                "carriage",
                work.toString(),
                List.of("*.glb"),
                program,
                Plan.every(Duration.ofMinutes(10), Counts.newest(3), Duration.ofMinutes(15)),
                List.of(keep.toString()),
                "UTC");
  }

  /** Kavrin starts, and knows what its journal says. */
  void start() throws IOException {
    folders = BackupFolders.of(BackupFolder.open(disk, keep, new UUID(1, 1), "node"));
    Publisher publisher = new Publisher(disk, "node");
    HealthCheck health = new HealthCheck(disk);
    BackupMaker maker = new BackupMaker(disk, publisher, health, folders, clock);
    watch =
        new IncidentWatch(
            disk,
            folders,
            new RetainedLeftovers(disk, publisher, maker),
            health,
            new Booted(new HostProcesses()),
            clock);
  }

  void stopInOrder() throws IOException {
    watch.leave();
  }

  /** The machine comes up again after everything on it was cut off. */
  void powerCut() throws IOException {
    killAll();
    startAfterAPowerCut();
  }

  /** What runs by now was started after the cut. */
  void startAfterAPowerCut() throws IOException {
    boot = "second";
    start();
  }

  /** The same process, once Kavrin has seen it. */
  Process lookedAt(Process process) throws IOException {
    look();
    return process;
  }

  /** Looks some times, as the service does: not at all while the work folder is away. */
  Optional<JournalEntry.IncidentSet> look() throws IOException {
    Optional<JournalEntry.IncidentSet> told = Optional.empty();
    for (int i = 0; i < LOOKS; i++) {
      if (Files.isDirectory(work)) {
        Optional<JournalEntry.IncidentSet> now = watch.tick(project);
        watch.secure(project);
        told = told.isPresent() ? told : now;
      }
    }
    return told;
  }

  OpenDocument.State state(UUID document) {
    return watch.open(document).state();
  }

  void answer(JournalEntry.IncidentSet incident, String kind) throws IOException {
    folders.record(
        new JournalEntry.IncidentSet(
            Instant.now(),
            incident.id(),
            incident.project(),
            incident.documents(),
            incident.from(),
            incident.to(),
            kind,
            incident.evidence(),
            false));
  }

  Process open(String document, String lock, String hold) throws IOException {
    return run("exec -a " + name + " sh " + quoted(script), document, lock, hold);
  }

  /** A shell script that stands in the list under the program's name and starts it. */
  Process wrapped(String document, String lock, String hold) throws IOException {
    return run(
        ": "
            + name
            + "; bash -c 'exec -a "
            + name
            + " sh \"$0\" \"$@\"' "
            + quoted(script)
            + " \"$@\"; :",
        document,
        lock,
        hold);
  }

  /** Leaves its work to a child and ends. */
  Process forking(String document) throws IOException {
    return run(
        "bash -c 'exec -a " + name + " sh \"$0\" \"$@\"' " + quoted(script) + " \"$@\" & exit 0; :",
        document,
        "named",
        "");
  }

  /** Without a document of ours; of another person, where this one may start such. */
  Process ofSomebodyElse() throws IOException {
    return started(
        new ProcessBuilder(
            "bash",
            "-c",
            "other=''; [ $(id -u) = 0 ] && other='setpriv --reuid=65534 --clear-groups';"
                + " exec $other bash -c 'echo ready; exec -a "
                + name
                + " tail -f /dev/null'"));
  }

  private Process run(String command, String document, String lock, String hold)
      throws IOException {
    String file = work.resolve(document).toString();
    String whole = command.endsWith(":") ? command : command + " \"$@\"";
    return started(new ProcessBuilder("bash", "-c", whole, "bash", file, lock, hold));
  }

  private Process started(ProcessBuilder builder) throws IOException {
    Process process = builder.redirectErrorStream(true).start();
    started.add(process);
    BufferedReader out =
        new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
    String line = out.readLine();
    if (!"ready".equals(line)) {
      throw new IOException("The program did not start: " + line);
    }
    seen(true, 1);
    return process;
  }

  /** Waits until so many instances, at least or at most, are seen. */
  private void seen(boolean atLeast, int count) {
    await()
        .atMost(Patience.LONG)
        .until(
            () -> {
              int now = new HostProcesses().instances(name).size();
              return atLeast ? now >= count : now <= count;
            });
  }

  void kill(Process process) {
    end(process, "-KILL");
  }

  void close(Process process) {
    end(process, "-TERM");
  }

  private void end(Process process, String signal) {
    int before = new HostProcesses().instances(name).size();
    signal(signal, process.pid());
    await().atMost(Patience.LONG).until(() -> !process.isAlive());
    if (before > 0) {
      seen(false, before - 1);
    }
  }

  /** Kills all that runs under the program's name. */
  void killAll() {
    for (Instance instance : new HostProcesses().instances(name)) {
      signal("-KILL", instance.pid());
    }
    seen(false, 0);
  }

  private static void signal(String signal, long pid) {
    try {
      new ProcessBuilder("kill", signal, Long.toString(pid)).start().waitFor();
    } catch (IOException | InterruptedException failed) {
      throw new IllegalStateException(failed);
    }
  }

  void write(String file, byte[] bytes, Duration ago) throws IOException {
    Path path = work.resolve(file);
    Files.createDirectories(path.getParent());
    Files.write(path, bytes);
    Files.setLastModifiedTime(path, FileTime.from(Instant.now().minus(ago)));
  }

  void tear(String file) throws IOException {
    byte[] whole = model(9);
    write(file, Arrays.copyOf(whole, whole.length / 2), Duration.ZERO);
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

  private static String quoted(Path path) {
    return "'" + path + "'";
  }

  @Override
  public void close() {
    for (Process process : started) {
      process.descendants().forEach(ProcessHandle::destroyForcibly);
      process.destroyForcibly();
    }
    for (Instance instance : new HostProcesses().instances(name)) {
      signal("-KILL", instance.pid());
    }
  }

  /** This machine's processes; when it was started is told by the test. */
  private final class Booted implements Processes {
    private final HostProcesses host;

    Booted(HostProcesses host) {
      this.host = host;
    }

    @Override
    public boolean runs(String words) {
      return new HostProcesses().runs(words);
    }

    @Override
    public List<Instance> instances(String words) {
      return new HostProcesses().instances(words);
    }

    @Override
    public List<Instance> having(Path file) {
      return new HostProcesses().having(file);
    }

    @Override
    public String name() {
      return host.name();
    }

    @Override
    public String boot() {
      return boot;
    }
  }
}
