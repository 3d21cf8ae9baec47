package dev.kavrin.core.disk;

import java.nio.file.Path;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** Files this process is at: whatever clears up what a killed one left must pass them by. */
final class Unfinished {
  private final Set<Path> files = ConcurrentHashMap.newKeySet();

  /** From now on nobody clears it away. */
  Path begin(Path file) {
    files.add(file);
    return file;
  }

  void end(Path file) {
    files.remove(file);
  }

  boolean contains(Path file) {
    return files.contains(file);
  }
}
