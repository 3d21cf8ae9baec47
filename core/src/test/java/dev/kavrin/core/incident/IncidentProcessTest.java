package dev.kavrin.core.incident;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.CrashLog;
import dev.kavrin.core.profile.FolderPattern;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Ways in which programs end, and what is held, told and asked then. */
class IncidentProcessTest extends EngineFixture {
  private Path rescue() {
    return live.resolveSibling(".drafts/carriage-02.rescue");
  }

  private Path autosave(int slot) {
    return live.resolveSibling(".drafts/carriage-02~" + slot + ".tmp");
  }

  private Path sign() {
    return live.resolveSibling(".carriage-02.open");
  }

  private void open(byte[] saved) throws IOException {
    write(live, saved);
    write(sign(), new byte[] {1});
    programRuns = true;
    tick();
  }

  private Optional<JournalEntry.IncidentSet> tick() throws IOException {
    wait(Duration.ofSeconds(2));
    Optional<JournalEntry.IncidentSet> incident = incidents.tick(project);
    incidents.secure(project);
    return incident;
  }

  /** The program is gone; what it should have taken along is left or not. */
  private Optional<JournalEntry.IncidentSet> end(boolean inOrder) throws IOException {
    programRuns = false;
    if (inOrder) {
      Files.delete(sign());
    }
    return tick();
  }

  private List<String> secured(CopyKind kind) {
    return captures().stream()
        .filter(c -> c.kind() == CopyKind.SECURED && c.sourceKind() == kind)
        .map(c -> c.content().toString())
        .toList();
  }

  @Test
  void killedIdleItsSignTellsAndNothingIsLost() throws IOException {
    open(model(1));
    JournalEntry.IncidentSet incident = end(false).orElseThrow();
    assertThat(incident.kind()).isEqualTo("crash");
    assertThat(incident.evidence().toString()).contains("lock file was left behind");
    assertThat(tick()).as("the same sign is no second crash").isEmpty();
  }

  private void logsCrashes(String folder, String pattern, String words) {
    describe(null, new CrashLog(FolderPattern.of(folder), NamePattern.of(pattern), words));
  }

  /** Its program takes the lock file along even as it dies, and writes nothing but its log. */
  @Test
  void itsProgramsOwnLogSaysThatItCrashedAndAnOldOneDoesNot() throws IOException {
    logsCrashes("logs", "session-{n}.log", "fatal error");
    Path log = live.resolveSibling("logs/session-1.log");
    open(model(1));
    write(log, "opened\nFATAL ERROR in solver\n".getBytes(StandardCharsets.UTF_8));
    JournalEntry.IncidentSet incident = end(true).orElseThrow();
    assertThat(incident.kind()).isEqualTo("crash");
    assertThat(incident.evidence().toString()).contains("its program wrote down that it crashed");
    assertThat(tick()).as("the same log is no second crash").isEmpty();

    wait(Duration.ofMinutes(3));
    open(model(2));
    wait(Duration.ofMinutes(3));
    assertThat(end(true)).as("the log of the crash before").isEmpty();

    open(model(3));
    byte[] gone = "closed in order\n".getBytes(StandardCharsets.UTF_8);
    write(live.resolveSibling("logs/session-2.log"), gone);
    write(live.resolveSibling("logs/other.txt"), "fatal error".getBytes(StandardCharsets.UTF_8));
    assertThat(end(true)).as("neither these words nor that file").isEmpty();
  }

  @Test
  void thatThereIsACrashFileSaysEnoughWhereNoWordsAreAsked() throws IOException {
    logsCrashes(".", "{stem}-crash-{n}.dmp", "");
    open(model(1));
    write(live.resolveSibling("another-crash-1.dmp"), new byte[] {0});
    assertThat(end(true)).as("another document's").isEmpty();
    open(model(2));
    write(live.resolveSibling("carriage-02-crash-2.dmp"), new byte[] {0});
    assertThat(end(true)).isPresent();
  }

  /** On a share a lock file alone is a question; its program's own words answer it. */
  @Test
  void aLockFileWithACrashLogAfterItIsNoQuestion() throws IOException {
    logsCrashes("logs", "session-{n}.log", "fatal");
    write(live, model(1));
    write(sign(), new byte[] {1});
    wait(Duration.ofMinutes(1));
    write(live.resolveSibling("logs/session-9.log"), "fatal".getBytes(StandardCharsets.UTF_8));
    assertThat(tick().orElseThrow().kind()).isEqualTo("crash");
  }

  @Test
  void aDocumentWhoseNameLooksLikeACopyIsNotSecuredAsOne() throws IOException {
    project =
        project.with(
            new ProgramProfile(
                "Modeller",
                "modeller",
                project.program().sessionSign(),
                null,
                List.of(ProgramProfile.Leftover.of(CopyKind.AUTOSAVE, ".", "{stem}-{n}.glb")),
                null),
            project.plan());
    recoveries.record(
        new JournalEntry.DocumentSet(now, new UUID(2, 3), project.id(), "carriage-02-3.glb"));
    write(live.resolveSibling("carriage-02-3.glb"), model(8));
    write(live.resolveSibling("carriage-02-4.glb"), model(9));
    open(model(1));
    end(false).orElseThrow();
    assertThat(secured(CopyKind.AUTOSAVE)).hasSize(1);
  }

  @Test
  void killedMidSaveTheFileIsToldDamagedAndTheAutosaveSecured() throws IOException {
    open(model(1));
    write(autosave(1), model(2));
    byte[] saving = model(3);
    write(live, Arrays.copyOf(saving, saving.length / 2));
    JournalEntry.IncidentSet incident = end(false).orElseThrow();
    assertThat(incident.evidence().toString()).contains("the file is damaged");
    assertThat(secured(CopyKind.AUTOSAVE)).hasSize(1);
  }

  @Test
  void killedMidAutosaveTheTornOneIsSecuredToo() throws IOException {
    open(model(1));
    write(autosave(1), model(2));
    byte[] torn = model(3);
    write(autosave(2), Arrays.copyOf(torn, torn.length / 3));
    assertThat(end(false)).isPresent();
    assertThat(captures())
        .filteredOn(c -> c.sourceKind() == CopyKind.AUTOSAVE)
        .extracting(BackupRecord::verdict)
        .containsExactlyInAnyOrder(Verdict.INTACT, Verdict.DAMAGED);
  }

  /** The second crash overwrites the rescue file of the first; its content must still be there. */
  @Test
  void twiceInARowTheFirstRescueFileIsStillThere() throws IOException {
    open(model(1));
    write(rescue(), model(2));
    end(false).orElseThrow();
    wait(Duration.ofMinutes(3));
    open(model(1));
    wait(Duration.ofMinutes(3));
    write(rescue(), model(3));
    end(false).orElseThrow();
    assertThat(secured(CopyKind.RESCUE)).hasSize(2).doesNotHaveDuplicates();
    assertThat(recoveries.history().incidents()).hasSize(2);
  }

  @Test
  void closedInOrderAsksNobody() throws IOException {
    open(model(1));
    write(autosave(1), model(1));
    wait(Duration.ofMinutes(5));
    write(live, model(2));
    assertThat(end(true)).isEmpty();
  }

  @Test
  void closedWithUnsavedWorkIsAskedUntilTwiceAnsweredAlike() throws IOException {
    for (int n = 1; n <= 3; n++) {
      wait(Duration.ofMinutes(10));
      open(model(10 * n));
      wait(Duration.ofMinutes(10));
      write(autosave(1), model(10 * n + 1));
      JournalEntry.IncidentSet incident = end(true).orElseThrow();
      assertThat(incident.kind()).isEqualTo(n < 3 ? "closed" : IncidentWatch.MEANT);
      assertThat(incident.open()).as("asked at close %d", n).isEqualTo(n < 3);
      assertThat(secured(CopyKind.AUTOSAVE)).as("kept either way").hasSize(n);
      recoveries.record(
          new JournalEntry.IncidentSet(
              now,
              incident.id(),
              incident.project(),
              incident.documents(),
              incident.from(),
              incident.to(),
              IncidentWatch.MEANT,
              incident.evidence(),
              false));
    }
  }

  @Test
  void aClockSetBackHidesNoCrash() throws IOException {
    open(model(1));
    write(rescue(), model(2));
    now = now.minus(Duration.ofHours(2));
    assertThat(end(false)).isPresent();
    assertThat(secured(CopyKind.RESCUE)).hasSize(1);
  }

  /** A bit that flipped on the disk is found by reading again, and protects nothing after that. */
  @Test
  void whatRotsOnTheDiskIsFound() throws IOException {
    write(live, model(1));
    pass(Duration.ofMinutes(14));
    write(live, model(2));
    pass(Duration.ofMinutes(14));
    assertThat(captures()).hasSize(2);
    Duration every = Duration.ofDays(14);
    keeper.rereadOldest(every);
    assertThat(captures()).as("too early").allMatch(BackupRecord::protects);
    wait(Duration.ofDays(15));
    Path rotten = recovery.absolute(captures().get(0).path());
    byte[] bytes = Files.readAllBytes(rotten);
    bytes[bytes.length - 5] ^= 4;
    Files.write(rotten, bytes);
    for (int i = 0; i < 4; i++) {
      keeper.rereadOldest(every);
    }
    assertThat(captures())
        .extracting(BackupRecord::verdict)
        .containsExactly(Verdict.DAMAGED, Verdict.INTACT);
    assertThat(captures().get(0).findings()).contains("not what was written");
    open();
    assertThat(captures().get(0).protects()).isFalse();
  }
}
