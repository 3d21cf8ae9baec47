package dev.kavrin.core.content.database;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.disk.Disk;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/** SQLite databases. */
public final class SqliteFormat implements Format {
  @Override
  public ContentReader reader() {
    return new SqliteReader();
  }

  @Override
  public Optional<Finding> lacking(Disk disk, Path file) throws IOException {
    return WriteAheadLog.beside(disk, file);
  }
}
