package dev.kavrin.core.replica;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.FolderAwayException;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.retention.Bin;
import dev.kavrin.core.retention.Scrub;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Several recovery folders for one project, one of them coming and going. */
class ReplicaSyncTest extends EngineFixture {
  private static final Plan PLAN =
      Plan.every(Duration.ofMinutes(10), Counts.newest(5), Duration.ofMinutes(15));

  @Override
  @BeforeEach
  public void start() throws IOException {
    start(PLAN, "keep", "shelf");
    look();
    assertThat(recoveries.behind(folders.get(1))).isEmpty();
  }

  private void save(int n) throws IOException {
    write(live, model(n));
    pass(Duration.ofMinutes(11));
  }

  private List<String> names(int folder) {
    return captures(folder).stream().map(BackupRecord::path).toList();
  }

  private void bothHoldTheSame() throws IOException {
    assertThat(names(1)).isEqualTo(names(0));
    for (int folder = 0; folder < 2; folder++) {
      for (BackupRecord c : captures(folder)) {
        Path file = folders.get(folder).absolute(c.path());
        assertThat(publisher.identify(file)).isEqualTo(c.content());
        assertThat(Files.getLastModifiedTime(file).toInstant()).isEqualTo(c.workTo());
      }
    }
  }

  @Test
  void eachFolderTakesEveryCopyUnderTheSameName() throws IOException {
    save(1);
    save(2);
    assertThat(captures(0)).hasSize(2);
    bothHoldTheSame();
  }

  @Test
  void oneThatIsAwayDoesNotStopTheOtherAndIsCaughtUpInOrder() throws IOException {
    save(1);
    takeAway(1);
    save(2);
    save(3);
    assertThat(captures(0)).hasSize(3);
    assertThat(recoveries.behind(folders.get(1))).hasValueSatisfying(w -> w.contains("away"));
    try (Stream<Path> mount = Files.list(folders.get(1).root())) {
      assertThat(mount).as("nothing is written into the empty mount point").isEmpty();
    }
    bringBack(1);
    look();
    assertThat(captures(1)).extracting(BackupRecord::sequence).containsExactly(1L, 2L, 3L);
    save(4);
    bothHoldTheSame();
  }

  @Test
  void theFirstFolderMayBeTheOneThatIsAway() throws IOException {
    save(1);
    takeAway(0);
    save(2);
    assertThat(captures(1)).hasSize(2);
    UUID second = UUID.randomUUID();
    recoveries.record(new JournalEntry.DocumentSet(now, second, project.id(), "carriage-03.glb"));
    bringBack(0);
    save(3);
    bothHoldTheSame();
    assertThat(folders.get(0).history().documents(project.id())).hasSize(2);
    open();
    look();
    assertThat(captures(0)).hasSize(3);
    bothHoldTheSame();
  }

  @Test
  void eitherMayLackSomethingAfterBothWereAway() throws IOException {
    takeAway(1);
    save(1);
    bringBack(1);
    takeAway(0);
    open();
    assertThat(captures(0)).isEmpty();
    bringBack(0);
    open();
    look();
    bothHoldTheSame();
    assertThat(captures(1)).hasSize(1);
  }

  @Test
  void aFolderThatCannotBeWrittenIsCaughtUpWhenItCan() throws IOException {
    save(1);
    Path place = folders.get(1).root().resolve("carriage");
    Path aside = root.resolve("aside");
    Files.move(place, aside);
    Files.writeString(place, "a file where the folder should be");
    save(2);
    assertThat(captures(0)).hasSize(2);
    assertThat(captures(1)).hasSize(1);
    Files.delete(place);
    Files.move(aside, place);
    look();
    bothHoldTheSame();
  }

  @Test
  void aRottenCopyIsReplacedFromTheOtherFolder() throws IOException {
    save(1);
    BackupRecord rotten = captures(1).get(0);
    folders
        .get(1)
        .record(
            new JournalEntry.Judged(
                now, rotten.path(), dev.kavrin.core.health.Verdict.DAMAGED, "read again"));
    takeAway(1);
    look();
    bringBack(1);
    look();
    assertThat(new KeepInputs(folders.get(1).history(), DOCUMENT).protecting()).isNotEmpty();
    assertThat(captures(1)).hasSize(2);
  }

  @Test
  void foreignFilesAreNeverTouchedAndTwoProjectsNeverMix() throws IOException {
    Path foreign = folders.get(1).root().resolve("carriage/letters.txt");
    Files.createDirectories(foreign.getParent());
    Files.writeString(foreign, "not Kavrin's");
    ProjectRecord other =
        ProjectRecord.of(
            new UUID(9, 9),
            "Carriage",
            "carriage",
            root.resolve("other").toString(),
            project.rule(),
            project.program(),
            PLAN,
            List.of(project.recovery()),
            "UTC");
    BackupFolder folder = folders.get(1);
    folder.record(new JournalEntry.ProjectSet(now, "Bram Odell", other));
    assertThat(folder.folderFor(other, "carriage-02.glb").getFileName()).hasToString("carriage-2");
    for (int n = 1; n < 8; n++) {
      save(n);
    }
    assertThat(foreign).hasContent("not Kavrin's");
    bothHoldTheSame();
  }

  @Test
  void movingOutLeavesNothingBehindAndCanBeStoppedHalfWay() throws IOException {
    save(1);
    save(2);
    BackupFolder leaving = folders.get(0);
    takeAway(1);
    look();
    assertThat(recoveries.standBack(leaving, "moving")).as("the other is away").isFalse();
    bringBack(1);
    look();
    assertThat(recoveries.standBack(leaving, "moving")).isTrue();
    BackupRecord newest = captures(1).get(1);
    Path copy = folders.get(1).absolute(newest.path());
    byte[] whole = Files.readAllBytes(copy);
    Files.write(copy, new byte[] {1});
    assertThat(keeper.leave(leaving, project)).as("the other's newest is rotten").isFalse();
    assertThat(captures(0)).extracting(BackupRecord::sequence).containsExactly(2L);
    Files.write(copy, whole);
    folders
        .get(1)
        .record(
            new JournalEntry.Judged(
                now, newest.path(), dev.kavrin.core.health.Verdict.INTACT, "read again"));
    assertThat(keeper.leave(leaving, project)).isTrue();
    assertThat(captures(0)).isEmpty();
    assertThat(leaving.history().bin()).hasSize(2);
    assertThat(captures(1)).hasSize(2);
  }

  @Test
  void theBinGivesWayWhenRoomIsNeededAndOnlyThen() throws IOException {
    for (int n = 1; n < 8; n++) {
      save(n);
    }
    BackupFolder folder = folders.get(0);
    Bin bin = new Bin(disk, publisher, this);
    assertThat(folder.history().bin()).hasSize(2);
    assertThat(bin.makeRoom(folder, folder.root(), 1)).isPositive();
    assertThat(folder.history().bin()).hasSize(2);
    folder.dropsPaused().set(true);
    bin.makeRoom(folder, folder.root(), Long.MAX_VALUE);
    assertThat(folder.history().bin()).as("nothing goes while drops are held").hasSize(2);
    folder.dropsPaused().set(false);
    bin.makeRoom(folder, folder.root(), Long.MAX_VALUE);
    assertThat(folder.history().bin()).isEmpty();
    assertThat(captures(0)).hasSize(5);
  }

  /** One rotten and one deleted by hand: they are told where they stood, the rest arrives. */
  @Test
  void aBackupThatIsNotWhatWasWrittenIsPassedOverAndTheOthersArrive() throws IOException {
    takeAway(1);
    for (int n = 1; n <= 4; n++) {
      save(n);
    }
    Files.write(folders.get(0).absolute(captures(0).get(0).path()), new byte[] {1});
    Files.delete(folders.get(0).absolute(captures(0).get(1).path()));
    bringBack(1);
    long before = Files.lines(recovery.journal().file()).count();
    look();
    look();

    assertThat(captures(1)).extracting(BackupRecord::sequence).containsExactly(3L, 4L);
    assertThat(recoveries.behind(folders.get(1))).isEmpty();
    assertThat(captures(0).subList(0, 2)).noneMatch(BackupRecord::protects);
    assertThat(captures(0).get(1).findings()).contains("gone from where it stood");
    assertThat(Files.lines(recovery.journal().file()).count() - before)
        .as("told once, not again and again")
        .isLessThanOrEqualTo(4);
  }

  @Test
  void oneThatRottedHereIsBroughtBackFromTheOtherFolder() throws IOException {
    save(1);
    save(2);
    BackupRecord rotten = captures(1).get(0);
    Files.write(folders.get(1).absolute(rotten.path()), new byte[] {1});
    new Scrub(disk, publisher, this).reread(folders.get(1), rotten);
    recoveries.standBack(folders.get(1), "looked after");
    look();
    assertThat(captures(1))
        .filteredOn(c -> c.state().equals(rotten.state()) && c.protects())
        .hasSize(1);
  }

  @Test
  void aReturningFolderLearnsOfTheLossNobodyHasAnsweredForBeforeItDrops() throws IOException {
    save(1);
    BackupRecord before = captures(0).get(0);
    takeAway(1);
    for (int n = 2; n <= 8; n++) {
      save(n);
      if (n == 2) {
        recoveries.record(
            new JournalEntry.LossAsked(
                now,
                DOCUMENT,
                before.state(),
                captures(0).get(1).state(),
                List.of("canopy: 12 of 40 parts gone"),
                List.of("canopy"),
                now.plus(Duration.ofDays(14)),
                null,
                null));
      }
    }
    bringBack(1);
    look();
    save(9);
    for (int folder = 0; folder < 2; folder++) {
      assertThat(captures(folder))
          .as("folder %s", folder)
          .extracting(BackupRecord::state)
          .contains(before.state());
    }
  }

  @Test
  void withoutAnyFolderTheFailureIsTold() throws IOException {
    takeAway(0);
    takeAway(1);
    write(live, model(1));
    pass(Duration.ofMinutes(11));
    assertThat(watch.status().get(0).problem()).contains("away");
    assertThatThrownBy(() -> watch.copyNow(DOCUMENT, null)).isInstanceOf(FolderAwayException.class);
    bringBack(1);
    pass(Duration.ofMinutes(11));
    assertThat(captures(1)).hasSize(1);
  }
}
