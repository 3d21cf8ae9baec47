package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

/** Keeps files of somebody else's from being lost, and gives them up again. */
final class Retaining {
  private final Disk disk;

  Retaining(Disk disk) {
    this.disk = disk;
  }

  Publisher.Retained retain(Path file, Path kept) throws IOException {
    Path folder = kept.getParent();
    disk.makeFolders(folder);
    try {
      if (disk.cloneTo(file, kept)) {
        disk.touch(
            kept,
            disk.facts(file)
                .orElseThrow(() -> new NoSuchFileException(file.toString()))
                .modifiedNanos());
        disk.flushFolder(folder);
        return Publisher.Retained.CLONED;
      }
      disk.link(file, kept);
      disk.flushFolder(folder);
      return Publisher.Retained.NAMED;
    } catch (IOException refused) {
      removeIfEmpty(folder);
      throw refused;
    }
  }

  void release(Path kept) throws IOException {
    disk.unlink(kept);
    disk.flushFolder(kept.getParent());
    removeIfEmpty(kept.getParent());
  }

  private void removeIfEmpty(Path folder) throws IOException {
    try {
      disk.removeFolder(folder);
    } catch (DirectoryNotEmptyException others) {
      // They are given up one by one.
    }
  }
}
