package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;

/**
 * By what Java tells of every system: file systems by their names, and no disks. A folder cannot be
 * asked to put its names on the disk; the system does so on its own.
 */
final class PlainVolumes implements Volumes {
  @Override
  public String device(Path path) throws IOException {
    FileStore store = Files.getFileStore(path);
    return store.type() + " " + store.name();
  }

  @Override
  public long room(Path folder) throws IOException {
    return Files.getFileStore(folder).getUsableSpace();
  }

  @Override
  public long capacity(Path folder) throws IOException {
    return Files.getFileStore(folder).getTotalSpace();
  }

  @Override
  public Optional<Set<String>> disks(Path folder) {
    return Optional.empty();
  }

  @Override
  public void flush(Path folder) {
    // Nothing to ask.
  }
}
