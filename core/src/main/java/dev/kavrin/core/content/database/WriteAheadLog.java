package dev.kavrin.core.content.database;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.disk.Disk;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * A log beside a database holds changes that are not in its file yet, or what the file held before
 * changes that are not finished. Source: "SQLite Database File Format", sections 3 and 4.
 */
public final class WriteAheadLog {
  private static final List<String> LOGS = List.of("-wal", "-journal");
  private static final int HEAD = 16;

  private WriteAheadLog() {}

  /** What a copy of the file alone lacks; empty for any file that is no database with a log. */
  public static Optional<Finding> beside(Disk disk, Path file) throws IOException {
    for (String ending : LOGS) {
      Path log = file.resolveSibling(file.getFileName() + ending);
      if (disk.facts(log).filter(f -> f.isFile() && f.size() > 0).isPresent()
          && isDatabase(disk, file)) {
        return Optional.of(
            new Finding(
                "log-beside",
                Finding.Severity.DOUBTFUL,
                -1,
                "Changes of this database stand in "
                    + log.getFileName()
                    + ", which is not part of this backup.",
                "Close it in its program, so that it writes them into the file; then back up."));
      }
    }
    return Optional.empty();
  }

  private static boolean isDatabase(Disk disk, Path file) throws IOException {
    ByteBuffer head = ByteBuffer.allocate(HEAD);
    try (SeekableByteChannel in = disk.read(file)) {
      while (head.hasRemaining() && in.read(head) >= 0) {}
    }
    return !head.hasRemaining() && new SqliteReader().recognises(head.flip());
  }
}
