package dev.kavrin.core.restore;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.backup.RunFolder;
import dev.kavrin.core.backup.SetBackup;
import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.CrashDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.FolderKind;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.disk.StageName;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepSet;
import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.replica.ReplicaSync;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Member;
import dev.kavrin.core.version.SetRule.Role;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Every state a power loss can leave during capture, drop and replace. */
class CrashStatesTest {
  private static final Path WORK = Path.of("/work");
  private static final Path KEEP = Path.of("/keep");
  private static final Path SHELF = Path.of("/shelf");
  private static final Path LIVE = WORK.resolve("carriage.bin");
  private static final Path SETUP = WORK.resolve("disc.setup.json");
  private static final UUID DOCUMENT = new UUID(3, 4);
  private static final InstantSource CLOCK = () -> Instant.parse("2031-03-03T10:00:00Z");

  private final ProjectRecord project =
      ProjectRecord.of(
          new UUID(5, 6),
          "Carriage",
          "carriage",
          WORK.toString(),
          List.of("*.bin"),
          ProgramProfile.UNKNOWN,
          Plan.every(Duration.ofMinutes(1), Counts.newest(2), Duration.ofMinutes(5)),
          List.of(KEEP.toString(), SHELF.toString()),
          "UTC");

  private final ProjectRecord runs =
      project
          .with(
              ProgramProfile.UNKNOWN,
              Plan.every(Duration.ZERO, Counts.newest(2), Duration.ofMinutes(5))
                  .onSteps(1, new RunCounts(2, 1, false)))
          .joining(
              List.of("*.setup.json"),
              new SetRule(
                  List.of(
                      new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.json")),
                      new Member(Role.RESTART, "", NamePattern.of("{stem}-{step}.restart")),
                      new Member(Role.RESULT, "", NamePattern.of("{stem}-{step}.result")))));

  /**
   * What was promised before a given step: contents that must never be lost again, and steps of a
   * run that were called taken.
   */
  private record Promise(int step, Set<ContentId> contents, Set<String> taken) {
    Promise(int step, Set<ContentId> contents) {
      this(step, contents, Set.of());
    }
  }

  private interface Story {
    void tell(Rig rig) throws IOException;
  }

  private final class Rig {
    private final CrashDisk recorded;
    private final Disk disk;
    private final Publisher publisher;
    private final List<BackupFolder> folders = new ArrayList<>();
    private final BackupFolder recovery;
    private final ReplicaSync catchUp;
    private final BackupMaker capturer;
    private final Retention keeper;
    private final Restorer restorer;
    private final SetBackup sets;
    private final ProjectRecord project;

    Rig(FolderKind kind, CrashDisk recorded, ProjectRecord project, List<Path> keeps)
        throws IOException {
      this.recorded = recorded;
      this.disk = kind.over(recorded);
      this.project = project;
      this.publisher = new Publisher(disk, "node");
      for (Path keep : keeps) {
        folders.add(BackupFolder.open(disk, keep, placeOf(keep), "node"));
      }
      this.recovery = folders.get(0);
      BackupFolders recoveries = BackupFolders.of(recovery);
      folders.stream().skip(1).forEach(recoveries::add);
      HealthCheck health = new HealthCheck(disk);
      this.capturer = new BackupMaker(disk, publisher, health, recoveries, CLOCK);
      this.keeper = new Retention(disk, publisher, recoveries, CLOCK);
      this.catchUp = new ReplicaSync(disk, publisher, recoveries, CLOCK);
      this.restorer = new Restorer(disk, publisher, health, recovery, CLOCK);
      this.sets = new SetBackup(disk, recoveries, capturer, Clockwork.steady(CLOCK));
    }

    void save(String text) throws IOException {
      save(LIVE, text);
    }

    void save(Path file, String text) throws IOException {
      byte[] bytes = text.getBytes(UTF_8);
      if (disk.facts(file).isPresent()) {
        disk.unlink(file);
      }
      try (Sink sink = disk.create(file)) {
        sink.write(bytes, 0, bytes.length);
        sink.flush();
      }
      disk.flushFolder(WORK);
    }

    BackupRecord capture() throws IOException {
      return capturer
          .capture(BackupOrder.ofLive(project, DOCUMENT, LIVE, "due", BackupOrder.How.CAREFULLY))
          .capture();
    }

    /** Writes a step's two files and takes it with the set-up. */
    SetRecord step(long step) throws IOException {
      Map<Role, List<RunFolder.StepFile>> files = new EnumMap<>(Role.class);
      for (Role role : List.of(Role.RESTART, Role.RESULT)) {
        Path file = WORK.resolve("disc-" + step + "." + role.name().toLowerCase(Locale.ROOT));
        save(file, role + " of " + step);
        FileFacts facts = disk.facts(file).orElseThrow();
        files.put(role, List.of(new RunFolder.StepFile(file, "", "", facts, Duration.ZERO)));
      }
      return sets.take(
          new SetBackup.Order(
              project,
              new SetBackup.Place(DOCUMENT, 1, step),
              SETUP,
              files,
              List.of(),
              "due",
              null,
              false));
    }

    void settle() throws IOException {
      for (BackupFolder folder : folders) {
        assertThat(new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, CLOCK).settle())
            .isEmpty();
      }
      catchUp.tick(project);
    }
  }

  private static UUID placeOf(Path keep) {
    return new UUID(1, keep.toString().length());
  }

  private Rig fresh(FolderKind kind, ProjectRecord project, List<Path> keeps) throws IOException {
    CrashDisk disk = new CrashDisk();
    disk.makeFolders(WORK);
    disk.makeFolders(WORK.resolve(".kavrin/aside"));
    for (Path keep : keeps) {
      disk.makeFolders(keep.resolve(".kavrin/bin"));
      disk.makeFolders(keep.resolve("carriage"));
      new FolderMarker(placeOf(keep), "RECOVERY", "node", CLOCK.instant())
          .write(disk, new Publisher(disk, "node"), keep);
      disk.flushFolder(keep);
    }
    Rig rig = new Rig(kind, disk, project, keeps);
    rig.recovery.record(new JournalEntry.ProjectSet(CLOCK.instant(), "Ilse Quarn", project));
    rig.recovery.record(
        new JournalEntry.DocumentSet(
            CLOCK.instant(),
            DOCUMENT,
            project.id(),
            (project.sets() == null ? LIVE : SETUP).getFileName().toString()));
    rig.catchUp.tick(project);
    return rig;
  }

  /** Replays a story's every crash state and checks what holds afterwards. */
  private int replay(
      FolderKind kind, List<Path> keeps, Story story, List<Promise> promises, Set<ContentId> lives)
      throws IOException {
    return replay(kind, project, keeps, story, promises, lives);
  }

  private int replay(
      FolderKind kind,
      ProjectRecord project,
      List<Path> keeps,
      Story story,
      List<Promise> promises,
      Set<ContentId> lives)
      throws IOException {
    Rig rig = fresh(kind, project, keeps);
    int from = rig.recorded.steps();
    story.tell(rig);
    int states = 0;
    for (int upTo = from; upTo <= rig.recorded.steps(); upTo++) {
      for (CrashDisk left : rig.recorded.states(upTo)) {
        check(new Rig(kind, left, project, keeps), upTo, promises, lives);
        states++;
      }
    }
    return states;
  }

  private void check(Rig after, int upTo, List<Promise> promises, Set<ContentId> lives)
      throws IOException {
    after.settle();
    after.settle();
    after.keeper.apply(after.project, DOCUMENT);
    Publisher publisher = after.publisher;
    Set<ContentId> held = new TreeSet<>();
    for (BackupFolder folder : after.folders) {
      assertThat(contents(folder))
          .as("all folders, after step %s", upTo)
          .isEqualTo(contents(after.recovery));
      for (BackupRecord capture : folder.history().allCaptures()) {
        assertThat(publisher.identify(folder.absolute(capture.path())))
            .as("what the journal calls %s, after step %s", capture.path(), upTo)
            .isEqualTo(capture.content());
        held.add(capture.content());
      }
      for (History.Binned binned : folder.history().bin()) {
        held.add(publisher.identify(folder.absolute(binned.bin())));
      }
      assertThat(folder.history().undone()).isEmpty();
    }
    for (Path path : allFiles(after.disk, Path.of("/"))) {
      assertThat(StageName.is(path) && !path.startsWith(WORK))
          .as("a stage is left: %s", path)
          .isFalse();
      held.add(publisher.identify(path));
    }
    promises.stream()
        .filter(p -> p.step() <= upTo)
        .forEach(
            p -> {
              assertThat(held).as("after step %s", upTo).containsAll(p.contents());
              for (BackupFolder folder : after.folders) {
                assertThat(steps(folder)).as("after step %s", upTo).containsAll(p.taken());
              }
            });
    if (!lives.isEmpty()) {
      assertThat(lives).contains(publisher.identify(LIVE));
    }
  }

  /** Steps that are called whole, each of whose files must then stand there. */
  private static Set<String> steps(BackupFolder folder) {
    Set<String> whole = new TreeSet<>();
    Set<String> called =
        new KeepInputs(folder.history(), DOCUMENT)
            .sets().stream()
                .filter(KeepSet::whole)
                .map(s -> s.run() + "/" + s.step())
                .collect(Collectors.toSet());
    for (SetRecord set : folder.history().sets(DOCUMENT)) {
      String name = set.run() + "/" + set.step();
      whole.add(name);
      if (called.contains(name)) {
        assertThat(contents(folder))
            .as("all files of step %s", name)
            .containsAll(set.members().stream().map(SetRecord.Member::content).toList());
      }
    }
    return whole;
  }

  private static Set<ContentId> contents(BackupFolder folder) {
    return folder.history().allCaptures().stream()
        .map(BackupRecord::content)
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static List<Path> allFiles(Disk disk, Path folder) throws IOException {
    List<Path> found = new ArrayList<>();
    for (Path path : disk.list(folder)) {
      if (disk.facts(path).orElseThrow().isFolder()) {
        found.addAll(allFiles(disk, path));
      } else {
        found.add(path);
      }
    }
    return found;
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void noCaptureCalledDoneIsEverLostOrHalf(FolderKind kind) throws IOException {
    List<Promise> promises = new ArrayList<>();
    int states =
        replay(
            kind,
            List.of(KEEP),
            rig -> {
              for (String text : List.of("one", "two", "three")) {
                rig.save(text);
                rig.capture();
                promises.add(new Promise(rig.recorded.steps(), Set.of(ContentHash.of(text))));
              }
            },
            promises,
            Set.of());
    assertThat(states).isGreaterThan(90);
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void droppingNeverLosesTheProtectedCopy(FolderKind kind) throws IOException {
    List<Promise> promises = new ArrayList<>();
    int states =
        replay(
            kind,
            List.of(KEEP),
            rig -> {
              for (String text : List.of("one", "two", "three", "four")) {
                rig.save(text);
                rig.capture();
              }
              promises.add(
                  new Promise(
                      rig.recorded.steps(),
                      Set.of(
                          ContentHash.of("four"),
                          ContentHash.of("three"),
                          ContentHash.of("two"),
                          ContentHash.of("one"))));
              assertThat(rig.keeper.apply(project, DOCUMENT)).hasSize(2);
            },
            promises,
            Set.of());
    assertThat(states).isGreaterThan(90);
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void replacingLeavesTheOldOrTheNewFileWhole(FolderKind kind) throws IOException {
    List<Promise> promises = new ArrayList<>();
    Set<ContentId> lives = new TreeSet<>();
    int states =
        replay(
            kind,
            List.of(KEEP),
            rig -> {
              rig.save("good");
              BackupRecord good = rig.capture();
              rig.save("damaged");
              int before = rig.recorded.steps();
              RestorePlan plan =
                  rig.restorer
                      .planner()
                      .plan(
                          RestoreMode.REPLACE,
                          rig.recovery.absolute(good.path()),
                          LIVE,
                          good.workTo(),
                          ZoneOffset.UTC);
              JournalEntry.Receipt done =
                  rig.restorer.restore(
                      new Restorer.Order(plan, DOCUMENT, CopyKind.CAPTURE), "Ilse Quarn");
              assertThat(done.former()).isEqualTo(ContentHash.of("damaged"));
              rig.restorer.undo(done, "Ilse Quarn");
              promises.add(
                  new Promise(before, Set.of(ContentHash.of("good"), ContentHash.of("damaged"))));
            },
            promises,
            lives);
    assertThat(states).isGreaterThan(90);
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void severalFoldersReachTheSameStatesInTheEnd(FolderKind kind) throws IOException {
    List<Promise> promises = new ArrayList<>();
    int states =
        replay(
            kind,
            List.of(KEEP, SHELF),
            rig -> {
              for (String text : List.of("one", "two", "three")) {
                rig.save(text);
                rig.capture();
                promises.add(new Promise(rig.recorded.steps(), Set.of(ContentHash.of(text))));
              }
              assertThat(rig.keeper.apply(project, DOCUMENT)).hasSize(2);
            },
            promises,
            Set.of());
    assertThat(states).isGreaterThan(180);
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void aStepOfARunIsTakenWholeOrNotCalledTaken(FolderKind kind) throws IOException {
    List<Promise> promises = new ArrayList<>();
    int states =
        replay(
            kind,
            runs,
            List.of(KEEP, SHELF),
            rig -> {
              rig.save(SETUP, "{}");
              for (long step = 1; step <= 3; step++) {
                SetRecord set = rig.step(step);
                promises.add(
                    new Promise(
                        rig.recorded.steps(),
                        set.members().stream()
                            .map(SetRecord.Member::content)
                            .collect(Collectors.toSet()),
                        Set.of("1/" + step)));
              }
              assertThat(rig.keeper.apply(runs, DOCUMENT)).isNotEmpty();
            },
            promises,
            Set.of());
    assertThat(states).isGreaterThan(300);
  }
}
