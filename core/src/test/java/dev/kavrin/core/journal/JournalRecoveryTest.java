package dev.kavrin.core.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.Operation.Change;
import dev.kavrin.core.journal.Operation.Replacement;
import dev.kavrin.core.profile.CopyKind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a stop left open is finished as planned or taken back, and never blocks anything else. */
class JournalRecoveryTest {
  private static final UUID FOLDER = new UUID(1, 1);
  private static final UUID DOCUMENT = new UUID(2, 2);
  private static final InstantSource CLOCK = () -> Instant.parse("2031-03-03T10:00:00Z");

  @TempDir Path root;
  private final RealDisk disk = new RealDisk();
  private final Publisher publisher = new Publisher(disk, "node");
  private Path work;
  private Path backups;
  private BackupFolder folder;

  @BeforeEach
  void open() throws IOException {
    work = Files.createDirectories(root.resolve("carriages"));
    backups = Files.createDirectories(root.resolve("backups"));
    if (FolderMarker.read(disk, backups).isEmpty()) {
      new FolderMarker(FOLDER, "RECOVERY", "node", CLOCK.instant()).write(disk, publisher, backups);
    }
    folder = BackupFolder.open(disk, backups, FOLDER, "node");
  }

  private List<String> settle(Reach reach) throws IOException {
    return new JournalRecovery(disk, publisher, folder, reach, CLOCK).settle();
  }

  private static BackupRecord backup(String path, String text, boolean settled, String... lacks) {
    return new BackupRecord(
        DOCUMENT,
        CopyKind.CAPTURE,
        path,
        ContentHash.of(text).digest(),
        ContentHash.of(text),
        "/incline/carriage.glb",
        CopyKind.LIVE,
        CLOCK.instant(),
        CLOCK.instant(),
        1,
        "due",
        "before the trial",
        settled,
        Verdict.INTACT,
        "",
        3,
        null,
        List.of(lacks));
  }

  private void stop(Operation.Planned planned) throws IOException {
    folder.begin(Operation.of(planned), CLOCK.instant());
    open();
  }

  @Test
  void aLightAndAnUnsettledBackupStayWhatTheyWerePlannedToBe() throws IOException {
    Files.createDirectories(backups.resolve("carriage"));
    Files.writeString(backups.resolve("carriage/light.glb"), "light");
    Files.writeString(backups.resolve("carriage/torn.glb"), "torn");
    folder.begin(
        Operation.of(new Operation.Backup(backup("carriage/light.glb", "light", true, "pictures"))),
        CLOCK.instant());
    stop(new Operation.Backup(backup("carriage/torn.glb", "torn", false)));

    assertThat(settle(Reach.EVERYWHERE)).isEmpty();

    assertThat(folder.history().captures(DOCUMENT)).hasSize(2).noneMatch(BackupRecord::protects);
    assertThat(folder.history().captures(DOCUMENT))
        .extracting(BackupRecord::note)
        .containsOnly("before the trial");
    assertThat(new KeepInputs(folder.history(), DOCUMENT).protecting()).isEmpty();
  }

  @Test
  void whatStandsUnderAPlannedNameButIsAnotherFileIsNoBackupAndStays() throws IOException {
    Files.createDirectories(backups.resolve("carriage"));
    Files.writeString(backups.resolve("carriage/a.glb"), "somebody's");
    stop(new Operation.Backup(backup("carriage/a.glb", "planned", true)));
    assertThat(settle(Reach.EVERYWHERE)).isEmpty();
    assertThat(folder.history().allCaptures()).isEmpty();
    assertThat(folder.history().undone()).isEmpty();
    assertThat(backups.resolve("carriage/a.glb")).hasContent("somebody's");
  }

  private Operation.Restore replaced() throws IOException {
    Path live = work.resolve("carriage.glb");
    Path aside = Files.createDirectories(work.resolve(".kavrin/aside")).resolve("carriage-1.glb");
    Files.writeString(live, "restored");
    Files.writeString(aside, "as it was");
    Files.writeString(backups.resolve("source.glb"), "restored");
    Receipt planned =
        new Receipt(
            DOCUMENT,
            "Ilse Quarn",
            "replace",
            "state",
            backups.resolve("source.glb").toString(),
            live.toString(),
            aside.toString(),
            ContentHash.of("restored"),
            ContentHash.of("as it was"),
            Verdict.NOT_CHECKED,
            "",
            CopyKind.CAPTURE,
            null);
    return Operation.Restore.of(
        new Replacement(UUID.randomUUID(), planned, Change.REPLACE, live.toString()));
  }

  @Test
  void whileTheWorkDriveIsAwayARestoreStaysOpenAndAllElseIsSettled() throws IOException {
    folder.begin(Operation.of(replaced()), CLOCK.instant());
    Files.createDirectories(backups.resolve("carriage"));
    Files.writeString(backups.resolve("carriage/a.glb"), "whole");
    stop(new Operation.Backup(backup("carriage/a.glb", "whole", true)));

    List<String> told = settle((document, file) -> Reach.Answer.AWAY);

    assertThat(told).singleElement().asString().contains("on a drive that is away");
    assertThat(folder.history().captures(DOCUMENT)).hasSize(1);
    assertThat(folder.leftOpen()).hasSize(1);
    assertThat(settle(Reach.EVERYWHERE)).isEmpty();
    assertThat(folder.leftOpen()).isEmpty();
    assertThat(receipts()).singleElement().satisfies(r -> assertThat(r.told()).contains("midway"));
    assertThat(work.resolve("carriage.glb")).hasContent("restored");
  }

  private List<Receipt> receipts() throws IOException {
    return folder.journal().readAll().entries().stream()
        .filter(JournalEntry.Done.class::isInstance)
        .map(e -> ((JournalEntry.Done) e).operation().planned())
        .filter(Operation.Restore.class::isInstance)
        .flatMap(p -> ((Operation.Restore) p).receipts().stream())
        .toList();
  }

  @Test
  void aFileSavedSinceTheStopIsToldAsRestoredNotAsBefore() throws IOException {
    stop(replaced());
    Files.writeString(work.resolve("carriage.glb"), "saved after the restore");
    assertThat(settle(Reach.EVERYWHERE)).isEmpty();
    assertThat(receipts()).hasSize(1);
    assertThat(work.resolve("carriage.glb")).hasContent("saved after the restore");
    assertThat(work.resolve(".kavrin/aside/carriage-1.glb")).hasContent("as it was");
  }

  @Test
  void anOperationThatLeadsWhereNothingMayBeTouchedIsLeftAndTold() throws IOException {
    stop(replaced());
    assertThat(settle((document, file) -> Reach.Answer.FORBIDDEN))
        .singleElement()
        .asString()
        .contains("may change nothing");
    assertThat(work.resolve("carriage.glb")).hasContent("restored");
    assertThat(folder.leftOpen()).hasSize(1);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "../carriages/precious.txt",
        "/etc/hostname",
        ".kavrin/journal.jsonl",
        "carriage/../../carriages/precious.txt",
        ".kavrin/bin/../../../carriages/precious.txt"
      })
  void aBinnedPathThatLeadsOutIsNeverPurged(String bin) throws IOException {
    Path precious = work.resolve("precious.txt");
    Files.writeString(precious, "kept");
    String line =
        """
        {"t":"begun","at":"2031-03-03T09:00:00Z","operation":{"id":"%s","planned":{"kind":"purge","bin":"%s"}}}
        {"t":"done","at":"2031-03-03T09:00:00Z","operation":{"id":"%s","planned":{"kind":"drop","path":"carriage/a.glb","bin":"%s","why":"x"}}}
        """
            .formatted(UUID.randomUUID(), bin, UUID.randomUUID(), bin);
    Files.writeString(
        BackupFolder.journalFile(backups),
        line,
        StandardOpenOption.CREATE,
        StandardOpenOption.APPEND);
    open();
    assertThat(folder.journal().readAll().passedOver()).isEqualTo(2);
    assertThat(settle(Reach.EVERYWHERE)).isEmpty();
    assertThat(folder.history().bin()).isEmpty();
    assertThat(precious).hasContent("kept");
    assertThat(BackupFolder.journalFile(backups)).exists();
  }

  @Test
  void behindALinkInABackupFolderNothingIsMovedOrTakenAway() throws IOException {
    Path elsewhere = Files.createDirectories(root.resolve("elsewhere"));
    Files.writeString(elsewhere.resolve("a.glb"), "kept");
    Files.createSymbolicLink(backups.resolve("carriage"), elsewhere);
    assertThatThrownBy(() -> folder.owned("carriage/a.glb"))
        .hasMessageContaining("is a link to somewhere else");
    stop(new Operation.Drop("carriage/a.glb", ".kavrin/bin/x.a.glb", "no longer kept"));
    assertThat(settle(Reach.EVERYWHERE)).hasSize(1);
    assertThat(elsewhere.resolve("a.glb")).hasContent("kept");
  }
}
