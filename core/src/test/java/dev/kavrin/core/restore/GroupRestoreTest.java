package dev.kavrin.core.restore;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.disk.CrashDisk;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FolderKind;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import java.io.BufferedReader;
import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** All or none: whatever fails, and wherever it is killed. */
class GroupRestoreTest {
  private static final Path ROOT = Path.of("/");
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");
  private static final int KILLS = FULL ? 200 : 20;

  @TempDir Path folder;

  private interface Check {
    void of(Sheets left, int upTo) throws IOException;
  }

  /** Settles each state that a power loss from a step on could leave, twice, and checks it. */
  private static int eachCrash(FolderKind kind, CrashDisk disk, int from, Check check)
      throws IOException {
    int states = 0;
    for (int upTo = from; upTo <= disk.steps(); upTo++) {
      for (CrashDisk cut : disk.states(upTo)) {
        Sheets left = new Sheets(kind.over(cut), ROOT);
        left.settle();
        left.settle();
        check.of(left, upTo);
        states++;
      }
    }
    return states;
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void everyCrashLeavesAllOrNone(FolderKind kind) throws IOException {
    CrashDisk disk = new CrashDisk();
    Sheets sheets = new Sheets(kind.over(disk), ROOT).begin();
    int from = disk.steps();
    UUID group = UUID.randomUUID();
    List<Receipt> receipts = sheets.restore(group);
    int restored = disk.steps();
    assertThat(sheets.standing()).isEqualTo(Sheets.after());
    List<Receipt> undone = sheets.undo(UUID.randomUUID(), group, receipts);
    int back = disk.steps();
    assertThat(sheets.standing()).isEqualTo(Sheets.before());
    sheets.undo(UUID.randomUUID(), group, undone);
    assertThat(sheets.standing()).isEqualTo(Sheets.after());

    int states =
        eachCrash(
            kind,
            disk,
            from,
            (left, upTo) -> {
              assertThat(left.standing())
                  .as("after step %s", upTo)
                  .isIn(Sheets.before(), Sheets.after());
              if (upTo == restored) {
                assertThat(left.standing()).isEqualTo(Sheets.after());
              }
              if (upTo == back) {
                assertThat(left.standing()).isEqualTo(Sheets.before());
              }
              assertThat(left.recovery.history().undone()).isEmpty();
              Set<String> whole = whole(left.disk);
              for (String name : Sheets.NAMES) {
                assertThat(whole).contains(ContentHash.of(Sheets.then(name)).toString());
                if (!name.startsWith("lost")) {
                  assertThat(whole).contains(ContentHash.of(Sheets.now(name)).toString());
                }
              }
            });
    assertThat(states).isGreaterThan(150);
  }

  /** Contents of all files of work and keep. */
  private static Set<String> whole(Disk disk) throws IOException {
    Set<String> found = new java.util.TreeSet<>();
    List<Path> open = new ArrayList<>(List.of(ROOT));
    while (!open.isEmpty()) {
      Path path = open.remove(open.size() - 1);
      if (disk.facts(path).filter(f -> f.isFolder()).isPresent() || path.equals(ROOT)) {
        open.addAll(disk.list(path));
      } else {
        found.add(new dev.kavrin.core.disk.Publisher(disk, "node").identify(path).toString());
      }
    }
    return found;
  }

  static Stream<Arguments> modesOnEveryKindOfFolder() {
    return Arrays.stream(RestoreMode.values())
        .flatMap(mode -> Arrays.stream(FolderKind.values()).map(k -> Arguments.of(mode, k)));
  }

  @ParameterizedTest
  @MethodSource("modesOnEveryKindOfFolder")
  void everyCrashOfOneRestoreLeavesTheOldOrTheNewFileWhole(RestoreMode mode, FolderKind kind)
      throws IOException {
    CrashDisk disk = new CrashDisk();
    Sheets sheets = new Sheets(kind.over(disk), ROOT).begin();
    int from = disk.steps();
    String name = Sheets.NAMES.get(0);
    Receipt receipt = sheets.restorer.restore(sheets.order(mode, name), "Ilse Quarn");
    Path target = Path.of(receipt.target());
    String then = ContentHash.of(Sheets.then(name)).toString();
    String now = ContentHash.of(Sheets.now(name)).toString();
    eachCrash(
        kind,
        disk,
        from,
        (left, upTo) -> {
          String live = left.publisher.identify(left.work.resolve(name)).toString();
          if (mode == RestoreMode.REPLACE) {
            assertThat(live).isIn(then, now);
            assertThat(whole(left.disk)).contains(then, now);
          } else {
            assertThat(live).isEqualTo(now);
            if (left.disk.facts(target).isPresent()) {
              assertThat(left.publisher.identify(target).toString()).isEqualTo(then);
            }
          }
          assertThat(left.recovery.history().undone()).isEmpty();
        });
    assertThat(whole(disk)).contains(then, now);
  }

  @Test
  void killedAtAnyMomentItLeavesAllOrNone() throws Exception {
    Random random = new Random(8);
    for (int kill = 0; kill < KILLS; kill++) {
      Path root = Files.createDirectory(folder.resolve("kill-" + kill));
      Process process =
          new ProcessBuilder(
                  Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                  "-Xshare:auto",
                  "-XX:TieredStopAtLevel=1",
                  "-XX:+UseSerialGC",
                  "-cp",
                  System.getProperty("java.class.path").replace(":", File.pathSeparator),
                  RestoringProcess.class.getName(),
                  root.toString())
              .redirectError(ProcessBuilder.Redirect.INHERIT)
              .start();
      try (BufferedReader out =
          new BufferedReader(
              new java.io.InputStreamReader(process.getInputStream(), StandardCharsets.US_ASCII))) {
        assertThat(out.readLine()).isEqualTo("begun");
        process.waitFor(random.nextInt(400), TimeUnit.MILLISECONDS);
      } finally {
        process.destroyForcibly().waitFor();
      }
      Sheets left = new Sheets(new RealDisk(), root);
      left.settle();
      assertThat(left.standing()).as("kill %s", kill).isIn(Sheets.before(), Sheets.after());
      try (Stream<Path> files = Files.walk(left.work)) {
        assertThat(
                files
                    .filter(Files::isRegularFile)
                    .filter(f -> !f.toString().contains("journal"))
                    .filter(f -> !f.toString().contains("probe"))
                    .map(GroupRestoreTest::text))
            .as("nothing half, kill %s", kill)
            .allMatch(t -> t.endsWith(" as it was") || t.endsWith(" as it is"));
      }
    }
  }

  private static String text(Path file) {
    try {
      return Files.readString(file);
    } catch (IOException unreadable) {
      throw new java.io.UncheckedIOException(unreadable);
    }
  }

  /** Fails one call of a kind below the folder of the work, counted from the first. */
  private static final class Failing extends ForwardingDisk {
    private String what = "";
    private int calls;

    Failing(Disk disk) {
      super(disk);
    }

    private void maybe(String call, Path path) throws IOException {
      if (call.equals(what)
          && path.toString().contains("/work")
          && !path.toString().contains("probe")
          && calls-- == 0) {
        throw new FileSystemException(path.toString(), null, "the drive failed");
      }
    }

    @Override
    public Sink create(Path file) throws IOException {
      maybe("create", file);
      return super.create(file);
    }

    @Override
    public boolean exchange(Path a, Path b) throws IOException {
      maybe("exchange", a);
      return super.exchange(a, b);
    }

    @Override
    public void flushFolder(Path where) throws IOException {
      maybe("flush", where);
      super.flushFolder(where);
    }

    @Override
    public long room(Path where) throws IOException {
      return what.equals("room") ? 30 : super.room(where);
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"create", "exchange", "flush"})
  void whateverFailsEverythingIsAsItWas(String what) throws IOException {
    int failed = 0;
    for (int at = 0; at < 40; at++) {
      Failing disk = new Failing(new RealDisk());
      Sheets sheets = new Sheets(disk, folder.resolve(what + at)).begin();
      disk.what = what;
      disk.calls = at;
      try {
        sheets.restore(UUID.randomUUID());
        assertThat(sheets.standing()).isEqualTo(Sheets.after());
      } catch (IOException expected) {
        failed++;
        assertThat(sheets.standing()).as("%s %s", what, at).isEqualTo(Sheets.before());
        new Sheets(new RealDisk(), folder.resolve(what + at)).settle();
        assertThat(sheets.standing()).as("%s %s settled", what, at).isEqualTo(Sheets.before());
      }
    }
    assertThat(failed).isBetween(2, 39);
  }

  @Test
  void thereIsRoomForAllTogetherOrNothingIsDone() throws IOException {
    Failing disk = new Failing(new RealDisk());
    Sheets sheets = new Sheets(disk, folder).begin();
    disk.what = "room";
    assertThatThrownBy(() -> sheets.restore(UUID.randomUUID())).isInstanceOf(NoRoomException.class);
    assertThat(sheets.standing()).isEqualTo(Sheets.before());
    assertThat(sheets.recovery.history().undone()).isEmpty();
  }

  @Test
  void aSaveInTheVeryMomentOfTheExchangeIsKept() throws IOException {
    byte[] saved = "saved at the last moment".getBytes(StandardCharsets.UTF_8);
    Sheets[] made = new Sheets[1];
    Disk disk =
        new ForwardingDisk(new RealDisk()) {
          @Override
          public boolean exchange(Path a, Path b) throws IOException {
            if (a.startsWith(made[0].work) && !a.toString().contains("probe")) {
              Files.write(made[0].work.resolve(Sheets.NAMES.get(1)), saved);
            }
            return super.exchange(a, b);
          }
        };
    made[0] = new Sheets(disk, folder).begin();
    List<Receipt> receipts = made[0].restore(UUID.randomUUID());
    assertThat(made[0].standing().subList(0, 1)).isEqualTo(Sheets.after().subList(0, 1));
    assertThat(receipts.get(1).told()).contains("saved again at the last moment");
    assertThat(Files.readAllBytes(Path.of(receipts.get(1).aside()))).isEqualTo(saved);
  }

  @Test
  void whatChangedOrAppearedOrVanishedSinceItWasShownIsNotTouched() throws IOException {
    Sheets sheets = new Sheets(new RealDisk(), folder).begin();
    List<Restorer.Order> orders = sheets.orders();
    Files.writeString(sheets.work.resolve(Sheets.NAMES.get(2)), "made by somebody");
    GroupRestore.GroupOrder deed =
        new GroupRestore.GroupOrder(UUID.randomUUID(), UUID.randomUUID(), "as of then", orders);
    assertThatThrownBy(() -> sheets.groups.restore(deed, "Ilse Quarn"))
        .isInstanceOf(ChangedMeanwhileException.class)
        .hasMessageContaining("appeared meanwhile");
    assertThat(sheets.standing().subList(0, 2)).isEqualTo(Sheets.before().subList(0, 2));
    assertThat(sheets.work.resolve(Sheets.NAMES.get(2))).hasContent("made by somebody");
    assertThat(sheets.recovery.history().undone()).isEmpty();
  }

  @Test
  void aCopyThatChangedSinceItWasShownGetsNoName() throws IOException {
    Sheets sheets = new Sheets(new RealDisk(), folder).begin();
    for (RestoreMode mode : RestoreMode.values()) {
      Restorer.Order order = sheets.order(mode, Sheets.NAMES.get(0));
      Files.writeString(sheets.keep.resolve(Sheets.NAMES.get(0)), "changed before " + mode);
      assertThatThrownBy(() -> sheets.restorer.restore(order, "Ilse Quarn"))
          .isInstanceOf(ChangedMeanwhileException.class);
      assertThat(sheets.standing()).isEqualTo(Sheets.before());
      assertThat(sheets.recovery.history().undone()).isEmpty();
    }
    try (Stream<Path> all = Files.walk(folder)) {
      assertThat(all.filter(Files::isRegularFile).map(p -> p.getFileName().toString()))
          .filteredOn(n -> n.contains("plan"))
          .containsExactlyInAnyOrder("plan.dxf", "plan.dxf");
    }
  }

  /** Somebody puts the very same bytes there between the last look and the naming. */
  @Test
  void aFileOfAnothersIsNeverTakenAwayThoughItHoldsTheSame() throws IOException {
    Sheets[] made = new Sheets[1];
    String lost = Sheets.NAMES.get(2);
    Disk disk =
        new ForwardingDisk(new RealDisk()) {
          @Override
          public void link(Path existing, Path added) throws IOException {
            if (added.equals(folder.resolve("work").resolve(lost)) && Files.notExists(added)) {
              Files.writeString(added, Sheets.then(lost));
            }
            super.link(existing, added);
          }
        };
    made[0] = new Sheets(disk, folder).begin();
    assertThatThrownBy(() -> made[0].restore(UUID.randomUUID()))
        .isInstanceOf(java.nio.file.FileAlreadyExistsException.class);
    assertThat(made[0].work.resolve(lost)).hasContent(Sheets.then(lost));
    assertThat(made[0].standing().subList(0, 2)).isEqualTo(Sheets.before().subList(0, 2));
  }
}
