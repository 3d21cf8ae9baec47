package dev.kavrin.core.journal;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A backup folder as the first release wrote it, kept as test data, is taken in whole. */
class FirstRoundTest {
  private static final Path WRITTEN_THEN = Path.of("src/test/resources/first-round/backups");
  private static final UUID FOLDER = UUID.fromString("00000000-0000-0001-0000-000000000001");
  private static final UUID PROJECT = UUID.fromString("00000000-0000-0003-0000-000000000003");
  private static final UUID CARRIAGE = UUID.fromString("00000000-0000-0002-0000-000000000002");
  private static final UUID STATION = UUID.fromString("00000000-0000-0002-0000-000000000005");
  private static final InstantSource CLOCK = () -> Instant.parse("2031-03-04T08:00:00Z");

  @TempDir Path root;
  private final RealDisk disk = new RealDisk();
  private final Publisher publisher = new Publisher(disk, "node-1");
  private BackupFolder folder;

  @BeforeEach
  void open() throws IOException {
    try (Stream<Path> all = Files.walk(WRITTEN_THEN)) {
      for (Path path : all.filter(Files::isRegularFile).toList()) {
        Path to = root.resolve(WRITTEN_THEN.relativize(path));
        Files.createDirectories(to.getParent());
        Files.copy(path, to);
      }
    }
    folder = BackupFolder.open(disk, root, FOLDER, "node-1");
  }

  @Test
  void noLineOfItIsPassedOver() throws IOException {
    Journal.Page page = folder.journal().readAll();
    assertThat(page.passedOver()).isZero();
    assertThat(page.entries()).hasSize(47);
  }

  @Test
  void everyBackupStandsWithTheBytesItsRecordTellsOf() throws IOException {
    History history = folder.history();
    assertThat(history.captures(CARRIAGE))
        .extracting(BackupRecord::sequence)
        .containsExactly(1L, 2L, 3L, 4L, 5L);
    assertThat(history.captures(STATION)).hasSize(2);
    for (BackupRecord backup : history.allCaptures()) {
      assertThat(publisher.identify(folder.absolute(backup.path()))).isEqualTo(backup.content());
    }
    assertThat(history.captures(CARRIAGE).get(1).note()).isEqualTo("before the trial");
    assertThat(history.bin()).isEmpty();
  }

  @Test
  void whatItKnewIsKnown() {
    History history = folder.history();
    assertThat(history.project(PROJECT)).get().extracting(ProjectRecord::name).isEqualTo("Incline");
    assertThat(history.documents(PROJECT))
        .extracting(DocumentSet::path)
        .containsExactly("carriage.txt", "station.txt");
    BackupRecord pinned = history.captures(CARRIAGE).get(1);
    assertThat(history.marks(CARRIAGE, pinned.state())).containsExactly("pinned");
    assertThat(history.incidents()).hasSize(1);
    assertThat(history.losses(CARRIAGE)).singleElement().matches(JournalEntry.LossAsked::isOpen);
    assertThat(history.layout(PROJECT)).contains("saves\nexports\n");
    assertThat(history.leansOn(CARRIAGE, pinned.state())).hasSize(1);
    assertThat(history.moments(PROJECT)).hasSize(1);
  }

  @Test
  void itsRestoresAndTheGroupOfThemAreThere() throws IOException {
    List<JournalEntry> entries = folder.journal().readAll().entries();
    List<JournalEntry.Receipt> receipts =
        entries.stream()
            .filter(JournalEntry.Done.class::isInstance)
            .map(e -> ((JournalEntry.Done) e).operation().planned())
            .filter(Operation.Restore.class::isInstance)
            .flatMap(p -> ((Operation.Restore) p).receipts().stream())
            .toList();
    assertThat(receipts)
        .extracting(JournalEntry.Receipt::mode)
        .containsExactly("replace", "undo", "beside", "replace", "replace");
    assertThat(entries).filteredOn(FirstRound.GroupMeant.class::isInstance).hasSize(1);
    assertThat(entries).filteredOn(FirstRound.GroupEnded.class::isInstance).hasSize(1);
  }

  /** A half copy under a final name, whose end was never written: it counts for nothing. */
  @Test
  void whatAKillLeftHalfProtectsNothingAndIsNotTakenAway() throws IOException {
    List<String> open =
        new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, CLOCK).settle();
    assertThat(open).isEmpty();
    assertThat(folder.history().undone()).isEmpty();
    Path half = root.resolve("incline/station.000009.2031-03-03T110000+0000.txt");
    assertThat(half).hasContent("station 3 half");
    assertThat(new KeepInputs(folder.history(), STATION).protecting())
        .extracting(BackupRecord::sequence)
        .containsExactly(2L);
  }
}
