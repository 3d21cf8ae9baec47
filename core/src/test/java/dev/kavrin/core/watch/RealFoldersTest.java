package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.disk.Abilities;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry.Receipt;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Work and backups on the file systems this machine can mount: the test script makes small ones
 * (FAT and exFAT through FUSE, btrfs and XFS on loop devices) and names them, with what each is
 * known to do. The FAT driver at hand cannot append, so that it is only measured.
 */
class RealFoldersTest extends EngineFixture {
  /** As the script names them, {@code kind=path}, separated by colons; and any folder at all. */
  static Stream<String> folders() {
    String named = Optional.ofNullable(System.getenv("KAVRIN_TEST_FOLDERS")).orElse("");
    return Stream.concat(
        Stream.of("any=" + System.getProperty("java.io.tmpdir")),
        Stream.of(named.split(":")).filter(f -> !f.isBlank()));
  }

  @ParameterizedTest
  @MethodSource("folders")
  void backupDropRestoreUndoAndSettleWorkThere(String folder) throws IOException {
    String kind = folder.substring(0, folder.indexOf('='));
    Path base = Path.of(folder.substring(folder.indexOf('=') + 1));
    root = Files.createTempDirectory(base, "kavrin-folder");
    checkAbilities(kind, publisher.abilities(root));
    if (kind.equals("fat")) {
      return;
    }
    start(Plan.every(Duration.ofMinutes(10), Counts.newest(2), Duration.ofMinutes(15)), "keep");
    for (int n = 1; n <= 4; n++) {
      write(live, model(n));
      watch.copyNow(DOCUMENT, null);
      wait(Duration.ofMinutes(20));
    }
    assertThat(captures()).hasSize(2);
    assertThat(recovery.history().bin()).hasSize(2);
    History.Binned second = recovery.history().bin().get(1);
    keeper.takeBack(second.bin());
    assertThat(publisher.identify(recovery.absolute(second.capture().path())))
        .isEqualTo(second.capture().content());

    restoreAndUndo(second.capture());

    open();
    assertThat(new JournalRecovery(disk, publisher, recovery, Reach.EVERYWHERE, this).settle())
        .isEmpty();
    for (BackupRecord backup : captures()) {
      assertThat(publisher.identify(recovery.absolute(backup.path()))).isEqualTo(backup.content());
    }
    try (Stream<Path> all = Files.walk(root)) {
      assertThat(all.filter(p -> p.getFileName().toString().startsWith(".kavrin-stage"))).isEmpty();
    }
  }

  private void restoreAndUndo(BackupRecord backup) throws IOException {
    byte[] present = Files.readAllBytes(live);
    RestorePlan plan =
        restorer
            .planner()
            .plan(
                RestoreMode.REPLACE,
                recovery.absolute(backup.path()),
                live,
                backup.workTo(),
                ZoneOffset.UTC);
    Receipt done =
        restorer.restore(new Restorer.Order(plan, DOCUMENT, CopyKind.CAPTURE), "Ilse Quarn");
    assertThat(live).hasBinaryContent(model(2));
    assertThat(Path.of(done.aside())).hasBinaryContent(present);
    Receipt undone = restorer.undo(done, "Ilse Quarn");
    assertThat(live).hasBinaryContent(present);
    restorer.undo(undone, "Ilse Quarn");
    assertThat(live).hasBinaryContent(model(2));
  }

  /** Facts of the file systems: the FAT and exFAT specifications, btrfs(5), xfs(5). */
  private static void checkAbilities(String kind, Abilities abilities) {
    switch (kind) {
      case "fat" -> {
        assertThat(abilities.hardLinks()).isFalse();
        assertThat(abilities.clones()).isFalse();
        assertThat(abilities.foldsCase()).isTrue();
        assertThat(abilities.timeStep()).isEqualTo(Duration.ofSeconds(2));
        assertThat(abilities.told()).hasSizeGreaterThanOrEqualTo(3);
      }
      case "exfat" -> {
        assertThat(abilities.hardLinks()).isFalse();
        assertThat(abilities.permissions()).isFalse();
        assertThat(abilities.foldsCase()).isTrue();
        assertThat(abilities.timeStep()).isGreaterThanOrEqualTo(Duration.ofMillis(10));
      }
      case "btrfs", "xfs" -> {
        assertThat(abilities.clones()).isTrue();
        assertThat(abilities.hardLinks()).isTrue();
        assertThat(abilities.foldsCase()).isFalse();
        assertThat(abilities.told()).isEmpty();
      }
      default -> assertThat(abilities.longestName()).isPositive();
    }
  }
}
