package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/**
 * Reads files that others may write meanwhile. What was read counts only if the file held the
 * content it was read for, from before the reading until after it.
 */
public final class Unchanged {
  private Unchanged() {}

  /** Makes something of a file. */
  @FunctionalInterface
  public interface Reading<T> {
    T of(Path file) throws IOException;
  }

  /**
   * @return empty if the file does not hold that content, or was written meanwhile
   * @throws IOException it cannot be read, though nobody wrote it
   */
  public static <T> Optional<T> read(Disk disk, Path file, ContentId content, Reading<T> reading)
      throws IOException {
    FileFacts before = disk.facts(file).filter(FileFacts::isFile).orElse(null);
    if (before == null
        || before.size() != content.length()
        || !Copying.identify(disk, file).equals(content)) {
      return Optional.empty();
    }
    T result;
    try {
      result = reading.of(file);
    } catch (IOException | RuntimeException failed) {
      if (stillIs(disk, file, before)) {
        throw failed;
      }
      return Optional.empty();
    }
    return stillIs(disk, file, before) ? Optional.of(result) : Optional.empty();
  }

  private static boolean stillIs(Disk disk, Path file, FileFacts before) throws IOException {
    return disk.facts(file).filter(before::sameAs).isPresent();
  }
}
