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
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Every state a power loss can leave during capture, drop and replace. */
class CrashStatesTest {
  private static final Path WORK = Path.of("/work");
  private static final Path KEEP = Path.of("/keep");
  private static final Path LIVE = WORK.resolve("carriage.bin");
  private static final UUID PLACE = new UUID(1, 2);
  private static final UUID DOCUMENT = new UUID(3, 4);
  private static final InstantSource CLOCK = () -> Instant.parse("2031-03-03T10:00:00Z");
  private static final double[] CHANCES = {0, 0.3, 0.5, 0.8, 1};
  private static final int ROUNDS = Boolean.getBoolean("kavrin.full") ? 12 : 2;

  private final ProjectRecord project =
      new ProjectRecord(
          new UUID(5, 6),
          "Carriage",
          "carriage",
          WORK.toString(),
          List.of("*.bin"),
          ProgramSheet.UNKNOWN,
          Plan.every(Duration.ofMinutes(1), Counts.newest(2), Duration.ofMinutes(5)),
          KEEP.toString(),
          List.of(),
          null,
          "UTC");

  /** What was promised before a given step: contents that must never be lost again. */
  private record Promise(int step, Set<ContentId> contents) {}

  private interface Story {
    void tell(Rig rig) throws IOException;
  }

  private final class Rig {
    private final CrashDisk disk;
    private final Publisher publisher;
    private final RecoveryFolder recovery;
    private final Capturer capturer;
    private final Keeper keeper;
    private final Restorer restorer;

    Rig(CrashDisk disk) throws IOException {
      this.disk = disk;
      this.publisher = new Publisher(disk, "node");
      this.recovery = RecoveryFolder.open(disk, KEEP, PLACE, "node");
      HealthCheck health = new HealthCheck(disk);
      this.capturer = new Capturer(disk, publisher, health, Recoveries.of(recovery), CLOCK);
      this.keeper = new Keeper(disk, publisher, Recoveries.of(recovery), CLOCK);
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
          .capture(
              new Capturer.Order(
                  project,
                  DOCUMENT,
                  "carriage.bin",
                  LIVE,
                  LIVE,
                  CopyKind.LIVE,
                  CopyKind.CAPTURE,
                  null,
                  "due",
                  null,
                  false,
                  false))
          .capture();
    }

    void settle() throws IOException {
      for (JournalEntry.Intent restore :
          new Settling(disk, publisher, new HealthCheck(disk), recovery, CLOCK).settle()) {
        restorer.settle(restore);
      }
    }
  }

  private Rig fresh() throws IOException {
    CrashDisk disk = new CrashDisk();
    disk.makeFolders(WORK);
    disk.makeFolders(KEEP.resolve(".kavrin/bin"));
    disk.makeFolders(KEEP.resolve("carriage"));
    disk.makeFolders(WORK.resolve(".kavrin/aside"));
    new PlaceMarker(PLACE, "RECOVERY", "node", CLOCK.instant())
        .write(disk, new Publisher(disk, "node"), KEEP);
    disk.flushFolder(KEEP);
    Rig rig = new Rig(disk);
    rig.recovery.record(new JournalEntry.ProjectSet(CLOCK.instant(), "Ilse Quarn", project));
    return rig;
  }

  /** Replays a story's every crash state and checks what holds afterwards. */
  private int replay(Story story, List<Promise> promises, Set<ContentId> lives) throws IOException {
    Rig rig = fresh();
    int from = rig.disk.steps();
    story.tell(rig);
    int states = 0;
    for (int upTo = from; upTo <= rig.disk.steps(); upTo++) {
      for (double chance : CHANCES) {
        for (int round = 0; round < ROUNDS; round++) {
          Random random = new Random(31L * upTo + round);
          check(rig.disk.after(upTo, random, chance), upTo, promises, lives);
          states++;
        }
      }
    }
    return states;
  }

  private void check(CrashDisk left, int upTo, List<Promise> promises, Set<ContentId> lives)
      throws IOException {
    Rig after = new Rig(left);
    after.settle();
    after.settle();
    Publisher publisher = after.publisher;
    Set<ContentId> held = new TreeSet<>();
    for (CaptureRecord capture : after.recovery.history().allCaptures()) {
      assertThat(publisher.identify(after.recovery.absolute(capture.path())))
          .as("what the journal calls %s, after step %s", capture.path(), upTo)
          .isEqualTo(capture.content());
      held.add(capture.content());
    }
    for (History.Binned binned : after.recovery.history().bin()) {
      held.add(publisher.identify(after.recovery.absolute(binned.bin())));
    }
    for (Path path : allFiles(left, Path.of("/"))) {
      assertThat(StageName.is(path) && path.startsWith(KEEP))
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
    assertThat(after.recovery.history().undone()).isEmpty();
  }

  private static List<Path> allFiles(Disk disk, Path folder) throws IOException {
    List<Path> found = new java.util.ArrayList<>();
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
    List<Promise> promises = new java.util.ArrayList<>();
    int states =
        replay(
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
    List<Promise> promises = new java.util.ArrayList<>();
    int states =
        replay(
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
    List<Promise> promises = new java.util.ArrayList<>();
    Set<ContentId> lives = new TreeSet<>();
    int states =
        replay(
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
}
