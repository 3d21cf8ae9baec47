package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.ChangedMeanwhileException;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import java.io.IOException;
import java.lang.reflect.Proxy;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Watching, incidents and restoring, over one recovery folder. */
class WatchTest extends EngineFixture {
  @Test
  void aChangeIsCopiedWithinTheIntervalAndNothingWithoutAChange() throws IOException {
    write(live, model(1));
    watch.tick();
    pass(Duration.ofMinutes(11));
    assertThat(captures()).hasSize(1);
    pass(Duration.ofHours(2));
    assertThat(captures()).hasSize(1);
    assertThat(Files.readAllBytes(recovery.absolute(captures().get(0).path()))).isEqualTo(model(1));

    write(live, model(2));
    pass(Duration.ofMinutes(9));
    assertThat(captures()).hasSize(1);
    pass(Duration.ofMinutes(2));
    assertThat(captures()).hasSize(2);
    assertThat(captures().get(1).verdict()).isEqualTo(Verdict.INTACT);
    assertThat(Files.readAllBytes(live)).isEqualTo(model(2));
  }

  @Test
  void aRestartNeitherCopiesAgainNorForgetsAChange() throws IOException {
    write(live, model(1));
    watch.tick();
    pass(Duration.ofMinutes(11));
    open();
    pass(Duration.ofMinutes(30));
    assertThat(captures()).hasSize(1);
    write(live, model(2));
    open();
    pass(Duration.ofMinutes(11));
    assertThat(captures()).hasSize(2);
  }

  @Test
  void onlySoManyStayAndDroppedOnesCanBeTakenBack() throws IOException {
    for (int n = 1; n <= 6; n++) {
      write(live, model(n));
      pass(Duration.ofMinutes(11));
    }
    assertThat(captures()).extracting(BackupRecord::sequence).containsExactly(4L, 5L, 6L);
    assertThat(recovery.history().bin()).hasSize(3);
    keeper.takeBack(recovery.history().bin().get(0).bin());
    open();
    assertThat(captures()).hasSize(4);
    assertThat(Files.readAllBytes(recovery.absolute(captures().get(0).path()))).isEqualTo(model(1));
  }

  @Test
  void nothingIsDroppedWhenTheProtectingCopyHasRotted() throws IOException {
    for (int n = 1; n <= 3; n++) {
      write(live, model(n));
      pass(Duration.ofMinutes(11));
    }
    Path newest = recovery.absolute(captures().get(2).path());
    byte[] rotted = Files.readAllBytes(newest);
    rotted[40] ^= 1;
    Files.write(newest, rotted);
    change(Plan.every(Duration.ofMinutes(10), Counts.newest(1), Duration.ofMinutes(10)));
    assertThat(keeper.apply(project, DOCUMENT)).isEmpty();
    assertThat(captures()).hasSize(3);
    assertThat(captures().get(2).verdict()).isEqualTo(Verdict.DAMAGED);
  }

  @Test
  void aDamagedFileIsNotCopiedByTimeButByHand() throws IOException {
    byte[] whole = model(1);
    write(live, java.util.Arrays.copyOf(whole, whole.length * 61 / 100));
    watch.tick();
    pass(Duration.ofMinutes(20));
    assertThat(captures()).isEmpty();
    assertThat(watch.status().get(0).problem()).contains("Cut short at 6");
    assertThat(watch.copyNow(DOCUMENT, "as it was found").capture().verdict())
        .isEqualTo(Verdict.DAMAGED);
    assertThat(new KeepInputs(recovery.history(), DOCUMENT).protecting()).isEmpty();
  }

  @Test
  void aFileThatGrowsWhileItIsCopiedIsNeverCalledWhole() throws IOException {
    write(live, model(1));
    watch.tick();
    Disk growing = growing(live);
    BackupMaker capturer =
        new BackupMaker(growing, new Publisher(growing, "node"), health, recoveries, this);
    assertThatThrownBy(() -> capturer.capture(order(false)))
        .isInstanceOf(SourceException.StillWritten.class);
    assertThat(captures()).isEmpty();
    try (Stream<Path> all = Files.list(recovery.root().resolve("carriage"))) {
      assertThat(all).isEmpty();
    }
    assertThat(capturer.capture(order(true)).capture().settled()).isFalse();
    assertThat(new KeepInputs(recovery.history(), DOCUMENT).protecting()).isEmpty();
  }

  private BackupOrder order(boolean evenMoving) {
    return BackupOrder.ofLive(
        project,
        DOCUMENT,
        live,
        "due",
        evenMoving ? BackupOrder.How.ANYTHING : BackupOrder.How.CAREFULLY);
  }

  /** A disk on which a file grows whenever a new one is made. */
  private Disk growing(Path file) {
    return (Disk)
        Proxy.newProxyInstance(
            Disk.class.getClassLoader(),
            new Class<?>[] {Disk.class},
            (self, method, arguments) -> {
              if (method.getName().equals("create")) {
                Files.write(file, new byte[] {1}, StandardOpenOption.APPEND);
              }
              return method.invoke(disk, arguments);
            });
  }

  @Test
  void anEmptyMountPointGetsNothing() throws IOException {
    write(live, model(1));
    Path marker = recovery.root().resolve(".kavrin/place.json");
    Files.move(marker, root.resolve("held-aside"));
    long before = countFiles(recovery.root());
    pass(Duration.ofMinutes(20));
    assertThat(countFiles(recovery.root())).isEqualTo(before);
    assertThat(watch.status().get(0).problem()).contains("away");
    Files.move(root.resolve("held-aside"), marker);
    pass(Duration.ofMinutes(11));
    assertThat(captures()).hasSize(1);
  }

  private static long countFiles(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.count();
    }
  }

  @Test
  void aLinkPointingElsewhereIsNotFollowed() throws IOException {
    write(root.resolve("secret.glb"), model(1));
    Files.createSymbolicLink(live, root.resolve("secret.glb"));
    pass(Duration.ofMinutes(20));
    assertThat(captures()).isEmpty();
    assertThatThrownBy(() -> watch.copyNow(DOCUMENT, null))
        .isInstanceOf(SourceException.NotAFile.class);
  }

  @Test
  void aCrashIsNoticedHeldAndSecuredAndANormalCloseIsNot() throws IOException {
    write(live, model(1));
    Path sign = live.resolveSibling(".carriage-02.open");
    Path autosave = live.resolveSibling(".drafts").resolve("carriage-02~2.tmp");
    programRuns = true;
    write(sign, new byte[] {1});
    assertThat(incidents.tick(project)).isEmpty();
    wait(Duration.ofSeconds(60));
    Files.delete(sign);
    programRuns = false;
    assertThat(incidents.tick(project)).isEmpty();

    programRuns = true;
    write(sign, new byte[] {1});
    incidents.tick(project);
    write(autosave, model(9));
    wait(Duration.ofSeconds(1));
    programRuns = false;
    JournalEntry.IncidentSet incident = incidents.tick(project).orElseThrow();

    assertThat(incident.kind()).isEqualTo("crash");
    assertThat(Duration.between(incident.from(), incident.to())).isLessThan(Duration.ofSeconds(2));
    assertThat(captures()).as("held, not copied yet").isEmpty();
    open();
    Files.delete(autosave);
    incidents.secure(project);
    assertThat(captures())
        .as("after a stop and although it was deleted")
        .singleElement()
        .satisfies(
            c -> {
              assertThat(c.kind()).isEqualTo(CopyKind.SECURED);
              assertThat(c.source()).isEqualTo(autosave.toString());
              assertThat(Files.readAllBytes(recovery.absolute(c.path()))).isEqualTo(model(9));
            });
    assertThat(incidents.tick(project)).isEmpty();
    open();
    assertThat(incidents.tick(project)).isEmpty();
  }

  @Test
  void aFileStillDamagedFromTheLastCrashIsNoNewCrash() throws IOException {
    byte[] whole = model(1);
    programRuns = true;
    incidents.tick(project);
    write(live, java.util.Arrays.copyOf(whole, whole.length / 2));
    wait(Duration.ofSeconds(1));
    programRuns = false;
    assertThat(incidents.tick(project)).isPresent();
    programRuns = true;
    incidents.tick(project);
    wait(Duration.ofSeconds(60));
    programRuns = false;
    assertThat(incidents.tick(project)).as("the program ran for something else").isEmpty();
    programRuns = true;
    incidents.tick(project);
    write(live, java.util.Arrays.copyOf(whole, whole.length / 3));
    programRuns = false;
    assertThat(incidents.tick(project)).as("damaged anew").isPresent();
  }

  @Test
  void replacingPutsThePresentFileAsideAndCanBeUndoneTwice() throws IOException {
    write(live, model(1));
    Files.setPosixFilePermissions(live, PosixFilePermissions.fromString("rw-r--r--"));
    BackupRecord good = watch.copyNow(DOCUMENT, null).capture();
    write(live, model(2));
    Path copy = recovery.absolute(good.path());
    RestorePlan plan =
        restorer.planner().plan(RestoreMode.REPLACE, copy, live, good.workTo(), ZoneOffset.UTC);

    JournalEntry.Receipt receipt =
        restorer.restore(new Restorer.Order(plan, DOCUMENT, CopyKind.CAPTURE), "Bram Odell");
    assertThat(Files.readAllBytes(live)).isEqualTo(model(1));
    assertThat(Files.readAllBytes(Path.of(receipt.aside()))).isEqualTo(model(2));
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(live)))
        .isEqualTo("rw-r--r--");
    assertThat(receipt.verdict()).isEqualTo(Verdict.INTACT);

    JournalEntry.Receipt undone = restorer.undo(receipt, "Bram Odell");
    assertThat(Files.readAllBytes(live)).isEqualTo(model(2));
    restorer.undo(undone, "Bram Odell");
    assertThat(Files.readAllBytes(live)).isEqualTo(model(1));
  }

  @Test
  void aFileSavedMeanwhileStopsTheRestoreUntouched() throws IOException {
    write(live, model(1));
    BackupRecord good = watch.copyNow(DOCUMENT, null).capture();
    write(live, model(2));
    Path copy = recovery.absolute(good.path());
    RestorePlan plan =
        restorer.planner().plan(RestoreMode.REPLACE, copy, live, good.workTo(), ZoneOffset.UTC);
    wait(Duration.ofSeconds(1));
    write(live, model(3));
    assertThatThrownBy(
            () ->
                restorer.restore(
                    new Restorer.Order(plan, DOCUMENT, CopyKind.CAPTURE), "Ilse Quarn"))
        .isInstanceOf(ChangedMeanwhileException.class);
    assertThat(Files.readAllBytes(live)).isEqualTo(model(3));
  }

  /** As through mapped memory: neither size nor time tells of it. */
  @Test
  void aWriteThatNothingTellsOfStandsAsideAndIsTold() throws IOException {
    write(live, model(1));
    BackupRecord good = watch.copyNow(DOCUMENT, null).capture();
    write(live, model(2));
    Path copy = recovery.absolute(good.path());
    RestorePlan plan =
        restorer.planner().plan(RestoreMode.REPLACE, copy, live, good.workTo(), ZoneOffset.UTC);
    write(live, model(3));
    JournalEntry.Receipt receipt =
        restorer.restore(new Restorer.Order(plan, DOCUMENT, CopyKind.CAPTURE), "Ilse Quarn");
    assertThat(Files.readAllBytes(live)).isEqualTo(model(1));
    assertThat(Files.readAllBytes(Path.of(receipt.aside()))).isEqualTo(model(3));
    assertThat(receipt.told()).contains("saved again at the last moment");
  }

  @Test
  void besideAndNextTakeFreeNamesAndUndoPutsThemAside() throws IOException {
    write(live, model(1));
    write(live.resolveSibling("carriage-03.glb"), model(7));
    BackupRecord good = watch.copyNow(DOCUMENT, null).capture();
    Path copy = recovery.absolute(good.path());
    RestorePlan next =
        restorer.planner().plan(RestoreMode.NEXT, copy, live, good.workTo(), ZoneOffset.UTC);
    assertThat(next.target().getFileName()).hasToString("carriage-04.glb");
    RestorePlan beside =
        restorer.planner().plan(RestoreMode.BESIDE, copy, live, good.workTo(), ZoneOffset.UTC);
    assertThat(beside.target().getFileName().toString())
        .startsWith("carriage-02-from-2031")
        .endsWith(".glb");
    JournalEntry.Receipt receipt =
        restorer.restore(new Restorer.Order(next, DOCUMENT, CopyKind.CAPTURE), "Tove Asgrim");
    assertThat(Files.readAllBytes(next.target())).isEqualTo(model(1));
    JournalEntry.Receipt undone = restorer.undo(receipt, "Tove Asgrim");
    assertThat(next.target()).doesNotExist();
    restorer.undo(undone, "Tove Asgrim");
    assertThat(Files.readAllBytes(next.target())).isEqualTo(model(1));
  }

  @Test
  void aTornJournalLineIsPassedOver() throws IOException {
    write(live, model(1));
    watch.copyNow(DOCUMENT, null);
    Files.writeString(
        recovery.journal().file(),
        "{\"t\":\"captured\",\"at\":\"20",
        java.nio.file.StandardOpenOption.APPEND);
    open();
    assertThat(captures()).hasSize(1);
    watch.copyNow(DOCUMENT, null);
    write(live, model(2));
    watch.copyNow(DOCUMENT, "after the tear");
    open();
    assertThat(captures()).hasSize(2);
    assertThat(recovery.journal().readAll().passedOver()).isEqualTo(1);
  }

  @Test
  void aPlanWrittenBeforeThereWereHandsOffAndSeveralFoldersIsReadAlike() throws IOException {
    String line =
        Journal.MAPPER
            .writerFor(JournalEntry.class)
            .writeValueAsString(new JournalEntry.ProjectSet(now, "Ilse Quarn", project))
            .replaceAll(
                ",\"everySave\":false|,\"also\":\\[]|,\"exceptions\":\\{}|,\"leaving\":null", "")
            .replaceAll(",\"handsOff\":\\{[^}]*}", "");
    assertThat(line).doesNotContain("handsOff", "everySave", "also", "leaving", "exceptions");
    Files.writeString(recovery.journal().file(), line + "\n", StandardOpenOption.APPEND);
    open();
    assertThat(recovery.history().project(project.id())).contains(project);
    assertThat(recovery.journal().readAll().passedOver()).isZero();
  }

  @Test
  void oddNamesGetThrough() throws IOException {
    for (String name : List.of("Wagen ä 雪.glb", "x".repeat(251) + ".glb")) {
      UUID id = UUID.randomUUID();
      recovery.record(new JournalEntry.DocumentSet(now, id, project.id(), name));
      watch.watch(id, name);
      write(live.resolveSibling(name), model(name.length()));
      BackupRecord made = watch.copyNow(id, null).capture();
      assertThat(Files.readAllBytes(recovery.absolute(made.path())))
          .isEqualTo(model(name.length()));
    }
  }
}
