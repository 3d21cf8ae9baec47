package dev.kavrin.core.watch;

import dev.kavrin.core.content.Reducer;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.plan.Light;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/** Whose turn it is: a light backup's or a full one's. */
final class Lightening {
  private final Disk disk;
  private final BackupFolders folders;

  Lightening(Disk disk, BackupFolders folders) {
    this.disk = disk;
    this.folders = folders;
  }

  /**
   * Who is to make the next timed backup lighter; empty if it is to be full: because the plan says
   * so, because it is its turn, or because nothing would be left out.
   */
  Optional<Reducer> next(Light plan, Path live, UUID document) {
    Optional<Reducer> reducer = plan.reducer(FileName.of(live.getFileName().toString()).lowerExt());
    List<BackupRecord> backups = folders.history().captures(document);
    int full = lastFull(backups);
    long since = backups.stream().skip(full + 1L).filter(BackupRecord::isLight).count();
    if (reducer.isEmpty() || full < 0 || since + 1 >= plan.fullEvery()) {
      return Optional.empty();
    }
    try (SeekableByteChannel in = disk.read(live)) {
      return reducer.get().leavesOut(in).isEmpty() ? Optional.empty() : reducer;
    } catch (IOException | RuntimeException unfit) {
      return Optional.empty();
    }
  }

  private static int lastFull(List<BackupRecord> backups) {
    for (int i = backups.size() - 1; i >= 0; i--) {
      if (!backups.get(i).isLight()) {
        return i;
      }
    }
    return -1;
  }
}
