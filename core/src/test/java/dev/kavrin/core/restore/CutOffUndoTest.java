package dev.kavrin.core.restore;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalRecovery;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** What a stop or a drive may do to going back and forth with one file. */
class CutOffUndoTest extends EngineFixture {
  /** Its journals take so many lines more, as when the process ends then. */
  private static final class Ending extends ForwardingDisk {
    private int lines;

    Ending(Disk disk, int lines) {
      super(disk);
      this.lines = lines;
    }

    @Override
    public Sink append(Path file) throws IOException {
      if (lines-- <= 0) {
        throw new IOException("stopped");
      }
      return super.append(file);
    }
  }

  private JournalEntry.Receipt goneBack() throws IOException {
    write(live, model(1));
    watch.tick();
    wait(Duration.ofMinutes(1));
    BackupRecord first = watch.copyNow(DOCUMENT, null).capture();
    wait(Duration.ofMinutes(1));
    write(live, model(2));
    RestorePlan plan =
        restorer
            .planner()
            .plan(
                RestoreMode.REPLACE,
                recovery.absolute(first.path()),
                live,
                first.workTo(),
                ZoneOffset.UTC);
    return restorer.restore(new Restorer.Order(plan, DOCUMENT, CopyKind.CAPTURE), "Bram Odell");
  }

  private BackupFolder reopened(Disk over) throws IOException {
    return BackupFolder.open(over, recovery.root(), recovery.uuid(), "node");
  }

  @Test
  void anUndoCutOffBeforeItsReceiptWaitsForTheDriveWithTheWork() throws IOException {
    JournalEntry.Receipt receipt = goneBack();
    Ending ending = new Ending(disk, 1);
    Restorer cut =
        new Restorer(ending, new Publisher(ending, "node"), health, reopened(ending), this);
    assertThatThrownBy(() -> cut.undo(receipt, "Bram Odell")).hasMessageContaining("stopped");

    BackupFolder folder = reopened(disk);
    assertThat(folder.history().undone()).hasSize(1);
    long lines = Files.lines(BackupFolder.journalFile(folder.root())).count();
    List<String> told =
        new JournalRecovery(disk, publisher, folder, (d, f) -> Reach.Answer.AWAY, this).settle();
    assertThat(told).singleElement().asString().contains("on a drive that is away");
    assertThat(Files.lines(BackupFolder.journalFile(folder.root())).count()).isEqualTo(lines);
    assertThat(folder.history().undone()).hasSize(1);

    assertThat(new JournalRecovery(disk, publisher, folder, Reach.EVERYWHERE, this).settle())
        .isEmpty();
    assertThat(folder.history().undone()).isEmpty();
    assertThat(Files.readAllBytes(live)).isEqualTo(model(2));
    assertThat(reopened(disk).history().undone()).isEmpty();
  }

  /** Two drives that happen to have the same room are two drives. */
  @Test
  void roomIsCountedByDriveNotByEqualFreeBytes() throws IOException {
    write(live, model(1));
    watch.tick();
    wait(Duration.ofMinutes(1));
    BackupRecord first = watch.copyNow(DOCUMENT, null).capture();
    Path here = Files.createDirectories(root.resolve("here"));
    Path there = Files.createDirectories(root.resolve("there"));
    assertThat(restoredInto(here, there, first, true)).isTrue();
    assertThat(restoredInto(here, there, first, false)).isFalse();
  }

  private boolean restoredInto(Path here, Path there, BackupRecord backup, boolean twoDrives)
      throws IOException {
    long[] free = {Long.MAX_VALUE};
    Disk drives =
        new ForwardingDisk(new RealDisk()) {
          @Override
          public String device(Path path) {
            return twoDrives && path.startsWith(there) ? "another drive" : "a drive";
          }

          @Override
          public long room(Path folder) {
            return free[0];
          }
        };
    Restorer over =
        new Restorer(drives, new Publisher(drives, "node"), health, reopened(disk), this);
    RestorePlan one = plan(over, here, backup);
    RestorePlan other = plan(over, there, backup);
    free[0] = one.room() + other.room() / 2;
    GroupRestore.GroupOrder order =
        new GroupRestore.GroupOrder(
            UUID.randomUUID(),
            project.id(),
            "both",
            List.of(
                new Restorer.Order(one, DOCUMENT, CopyKind.CAPTURE),
                new Restorer.Order(other, DOCUMENT, CopyKind.CAPTURE)));
    try {
      new GroupRestore(over).restore(order, "Ilse Quarn");
      return true;
    } catch (NoRoomException tooLittle) {
      return false;
    }
  }

  private RestorePlan plan(Restorer over, Path folder, BackupRecord backup) throws IOException {
    return over.planner()
        .plan(
            RestoreMode.BESIDE,
            recovery.absolute(backup.path()),
            folder.resolve("carriage-02.glb"),
            backup.workTo(),
            ZoneOffset.UTC);
  }
}
