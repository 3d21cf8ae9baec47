package dev.kavrin.core.retention;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FolderKind;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.watch.EngineFixture;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Bins and re-reading where disks fail and two things happen at once. */
class RetentionTest extends EngineFixture {
  private void saveThree() throws IOException {
    for (int n = 1; n <= 3; n++) {
      write(live, model(n));
      watch.copyNow(DOCUMENT, null);
      wait(Duration.ofMinutes(20));
    }
  }

  /** A disk on which one file cannot be read: what a failing sector looks like. */
  private Disk unreadable(Path file) {
    return new ForwardingDisk(disk) {
      @Override
      public SeekableByteChannel read(Path path) throws IOException {
        if (path.equals(file)) {
          throw new IOException("Input/output error");
        }
        return super.read(path);
      }
    };
  }

  @Test
  void aSectorThatCannotBeReadIsJudgedOnceAndTheOthersAreReadToo() throws IOException {
    saveThree();
    List<BackupRecord> backups = captures();
    Disk failing = unreadable(recovery.absolute(backups.get(0).path()));
    Scrub scrub = new Scrub(failing, new Publisher(failing, "node"), this);
    wait(Duration.ofDays(20));

    for (int i = 0; i < 3; i++) {
      scrub.rereadOldest(recovery, Duration.ofDays(14));
    }

    assertThat(captures().get(0).verdict()).isEqualTo(Verdict.UNCHECKABLE);
    assertThat(captures().get(0).findings()).contains("could not be read again");
    assertThat(captures().get(0).protects()).isFalse();
    assertThat(captures().subList(1, 3)).allMatch(BackupRecord::protects);
    assertThat(recovery.history().longestUnread(now.minus(Duration.ofDays(14)))).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void whatIsPurgedWhileItIsTakenBackLeavesNoEmptyFile(FolderKind kind) throws IOException {
    saveThree();
    BackupRecord oldest = captures().get(0);
    Disk folders = kind.over(disk);
    Retention dropping = new Retention(folders, new Publisher(folders, "node"), recoveries, this);
    change(Plan.every(Duration.ofMinutes(10), Counts.newest(2), Duration.ofMinutes(15)));
    assertThat(dropping.apply(project, DOCUMENT)).containsExactly(oldest);
    History.Binned binned = recovery.history().bin().get(0);
    Files.delete(recovery.absolute(binned.bin()));

    assertThatThrownBy(() -> dropping.takeBack(binned.bin()))
        .isInstanceOf(NoSuchFileException.class);

    assertThat(recovery.absolute(oldest.path())).doesNotExist();
    assertThat(captures()).noneMatch(c -> c.path().equals(oldest.path()));
  }

  @ParameterizedTest
  @EnumSource(FolderKind.class)
  void aBackupThatFailsMidwayLeavesNothingUnderAFinalName(FolderKind kind) throws IOException {
    write(live, model(1));
    Disk breaking =
        new ForwardingDisk(kind.over(disk)) {
          @Override
          public void rename(Path from, Path to) throws IOException {
            refuse(to);
            super.rename(from, to);
          }

          @Override
          public void link(Path existing, Path added) throws IOException {
            refuse(added);
            super.link(existing, added);
          }

          @Override
          public boolean renameIfFree(Path from, Path to) throws IOException {
            refuse(to);
            return super.renameIfFree(from, to);
          }

          private void refuse(Path to) throws IOException {
            if (to.toString().endsWith(".glb")) {
              throw new IOException("No space left on device");
            }
          }
        };
    BackupMaker backups =
        new BackupMaker(breaking, new Publisher(breaking, "node"), health, recoveries, this);
    assertThatThrownBy(
            () ->
                backups.capture(
                    BackupOrder.ofLive(project, DOCUMENT, live, "due", BackupOrder.How.CAREFULLY)))
        .hasMessageContaining("No space left");
    try (var all = Files.walk(recovery.root())) {
      assertThat(all.filter(p -> p.toString().endsWith(".glb"))).isEmpty();
    }
    assertThat(recovery.history().undone()).isEmpty();
    assertThat(captures()).isEmpty();
  }
}
