package dev.kavrin.core.store;

import static java.nio.charset.StandardCharsets.UTF_8;
import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.CrashDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.disk.StageName;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.core.trail.CopyKind;
import dev.kavrin.core.trail.ProgramSheet;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Every state a power loss can leave during capture, drop and replace. */
class CrashStatesTest {
  private static final Path WORK = Path.of("/work");
  private static final Path KEEP = Path.of("/keep");
  private static final Path SHELF = Path.of("/shelf");
  private static final Path LIVE = WORK.resolve("carriage.bin");
  private static final UUID DOCUMENT = new UUID(3, 4);
  private static final InstantSource CLOCK = () -> Instant.parse("2031-03-03T10:00:00Z");
  private static final double[] CHANCES = {0, 0.3, 0.5, 0.8, 1};
  private static final int ROUNDS = Boolean.getBoolean("kavrin.full") ? 12 : 2;

  private final ProjectRecord project =
      ProjectRecord.of(
          new UUID(5, 6),
          "Carriage",
          "carriage",
          WORK.toString(),
          List.of("*.bin"),
          ProgramSheet.UNKNOWN,
          Plan.every(Duration.ofMinutes(1), Counts.newest(2), Duration.ofMinutes(5)),
          List.of(KEEP.toString(), SHELF.toString()),
          "UTC");

  /** What was promised before a given step: contents that must never be lost again. */
  private record Promise(int step, Set<ContentId> contents) {}

  private interface Story {
    void tell(Rig rig) throws IOException;
  }

  private final class Rig {
    private final CrashDisk disk;
    private final Publisher publisher;
    private final List<RecoveryFolder> folders = new ArrayList<>();
    private final RecoveryFolder recovery;
    private final CatchUp catchUp;
    private final Capturer capturer;
    private final Keeper keeper;
    private final Restorer restorer;

    Rig(CrashDisk disk, List<Path> keeps) throws IOException {
      this.disk = disk;
      this.publisher = new Publisher(disk, "node");
      for (Path keep : keeps) {
        folders.add(RecoveryFolder.open(disk, keep, placeOf(keep), "node"));
      }
      this.recovery = folders.get(0);
      Recoveries recoveries = Recoveries.of(recovery);
      folders.stream().skip(1).forEach(recoveries::add);
      HealthCheck health = new HealthCheck(disk);
      this.capturer = new Capturer(disk, publisher, health, recoveries, CLOCK);
      this.keeper = new Keeper(disk, publisher, recoveries, CLOCK);
      this.catchUp = new CatchUp(disk, publisher, recoveries, CLOCK);
      this.restorer = new Restorer(disk, publisher, health, recovery, CLOCK);
    }

    void save(String text) throws IOException {
      byte[] bytes = text.getBytes(UTF_8);
      if (disk.facts(LIVE).isPresent()) {
        disk.unlink(LIVE);
      }
      try (Sink sink = disk.create(LIVE)) {
        sink.write(bytes, 0, bytes.length);
        sink.flush();
      }
      disk.flushFolder(WORK);
    }

    CaptureRecord capture() throws IOException {
      return capturer
          .capture(CopyOrder.ofLive(project, DOCUMENT, LIVE, "due", CopyOrder.How.CAREFULLY))
          .capture();
    }

    void settle() throws IOException {
      for (RecoveryFolder folder : folders) {
        for (JournalEntry.Intent restore :
            new Settling(disk, publisher, new HealthCheck(disk), folder, CLOCK).settle()) {
          restorer.settle(restore);
        }
      }
      catchUp.tick(project);
    }
  }

  private static UUID placeOf(Path keep) {
    return new UUID(1, keep.toString().length());
  }

  private Rig fresh(List<Path> keeps) throws IOException {
    CrashDisk disk = new CrashDisk();
    disk.makeFolders(WORK);
    disk.makeFolders(WORK.resolve(".kavrin/aside"));
    for (Path keep : keeps) {
      disk.makeFolders(keep.resolve(".kavrin/bin"));
      disk.makeFolders(keep.resolve("carriage"));
      new PlaceMarker(placeOf(keep), "RECOVERY", "node", CLOCK.instant())
          .write(disk, new Publisher(disk, "node"), keep);
      disk.flushFolder(keep);
    }
    Rig rig = new Rig(disk, keeps);
    rig.recovery.record(new JournalEntry.ProjectSet(CLOCK.instant(), "Ilse Quarn", project));
    rig.recovery.record(
        new JournalEntry.DocumentSet(CLOCK.instant(), DOCUMENT, project.id(), "carriage.bin"));
    rig.catchUp.tick(project);
    return rig;
  }

  /** Replays a story's every crash state and checks what holds afterwards. */
  private int replay(List<Path> keeps, Story story, List<Promise> promises, Set<ContentId> lives)
      throws IOException {
    Rig rig = fresh(keeps);
    int from = rig.disk.steps();
    story.tell(rig);
    int states = 0;
    for (int upTo = from; upTo <= rig.disk.steps(); upTo++) {
      for (double chance : CHANCES) {
        for (int round = 0; round < ROUNDS; round++) {
          Random random = new Random(31L * upTo + round);
          check(rig.disk.after(upTo, random, chance), keeps, upTo, promises, lives);
          states++;
        }
      }
    }
    return states;
  }

  private void check(
      CrashDisk left, List<Path> keeps, int upTo, List<Promise> promises, Set<ContentId> lives)
      throws IOException {
    Rig after = new Rig(left, keeps);
    after.settle();
    after.settle();
    after.keeper.apply(project, DOCUMENT);
    Publisher publisher = after.publisher;
    Set<ContentId> held = new TreeSet<>();
    for (RecoveryFolder folder : after.folders) {
      assertThat(contents(folder))
          .as("all folders, after step %s", upTo)
          .isEqualTo(contents(after.recovery));
      for (CaptureRecord capture : folder.history().allCaptures()) {
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
    for (Path path : allFiles(left, Path.of("/"))) {
      assertThat(StageName.is(path) && !path.startsWith(WORK))
          .as("a stage is left: %s", path)
          .isFalse();
      held.add(publisher.identify(path));
    }
    promises.stream()
        .filter(p -> p.step() <= upTo)
        .forEach(p -> assertThat(held).as("after step %s", upTo).containsAll(p.contents()));
    if (!lives.isEmpty()) {
      assertThat(lives).contains(publisher.identify(LIVE));
    }
  }

  private static Set<ContentId> contents(RecoveryFolder folder) {
    return folder.history().allCaptures().stream()
        .map(CaptureRecord::content)
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

  @Test
  void noCaptureCalledDoneIsEverLostOrHalf() throws IOException {
    List<Promise> promises = new ArrayList<>();
    int states =
        replay(
            List.of(KEEP),
            rig -> {
              for (String text : List.of("one", "two", "three")) {
                rig.save(text);
                rig.capture();
                promises.add(new Promise(rig.disk.steps(), Set.of(ContentHash.of(text))));
              }
            },
            promises,
            Set.of());
    assertThat(states).isGreaterThan(300);
  }

  @Test
  void droppingNeverLosesTheProtectedCopy() throws IOException {
    List<Promise> promises = new ArrayList<>();
    int states =
        replay(
            List.of(KEEP),
            rig -> {
              for (String text : List.of("one", "two", "three", "four")) {
                rig.save(text);
                rig.capture();
              }
              promises.add(
                  new Promise(
                      rig.disk.steps(),
                      Set.of(
                          ContentHash.of("four"),
                          ContentHash.of("three"),
                          ContentHash.of("two"),
                          ContentHash.of("one"))));
              assertThat(rig.keeper.apply(project, DOCUMENT)).hasSize(2);
            },
            promises,
            Set.of());
    assertThat(states).isGreaterThan(300);
  }

  @Test
  void replacingLeavesTheOldOrTheNewFileWhole() throws IOException {
    List<Promise> promises = new ArrayList<>();
    Set<ContentId> lives = new TreeSet<>();
    int states =
        replay(
            List.of(KEEP),
            rig -> {
              rig.save("good");
              CaptureRecord good = rig.capture();
              rig.save("damaged");
              int before = rig.disk.steps();
              RestorePlan plan =
                  rig.restorer.plan(
                      RestoreMode.REPLACE,
                      rig.recovery.absolute(good.path()),
                      LIVE,
                      good.workTo(),
                      ZoneOffset.UTC);
              JournalEntry.Receipt done =
                  rig.restorer.restore(plan, DOCUMENT, CopyKind.CAPTURE, "Ilse Quarn", true);
              assertThat(done.former()).isEqualTo(ContentHash.of("damaged"));
              rig.restorer.undo(done, "Ilse Quarn");
              promises.add(
                  new Promise(before, Set.of(ContentHash.of("good"), ContentHash.of("damaged"))));
            },
            promises,
            lives);
    assertThat(states).isGreaterThan(300);
  }

  @Test
  void severalFoldersReachTheSameStatesInTheEnd() throws IOException {
    List<Promise> promises = new ArrayList<>();
    int states =
        replay(
            List.of(KEEP, SHELF),
            rig -> {
              for (String text : List.of("one", "two", "three")) {
                rig.save(text);
                rig.capture();
                promises.add(new Promise(rig.disk.steps(), Set.of(ContentHash.of(text))));
              }
              assertThat(rig.keeper.apply(project, DOCUMENT)).hasSize(2);
            },
            promises,
            Set.of());
    assertThat(states).isGreaterThan(600);
  }
}
