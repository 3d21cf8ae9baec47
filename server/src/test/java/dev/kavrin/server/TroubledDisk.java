package dev.kavrin.server;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.GatedDisk;
import dev.kavrin.core.disk.RealDisk;
import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** This machine's disk, with folders that hang, throw, or cannot be listed. */
final class TroubledDisk extends GatedDisk {
  /** What is wrong with a folder and all in it. */
  enum Trouble {
    HANGS,
    THROWS,
    ENDS_WITH_AN_ERROR,
    CANNOT_BE_LISTED,
    NEARLY_FULL
  }

  private final Map<Path, Trouble> troubles = new ConcurrentHashMap<>();

  TroubledDisk() {
    this(new RealDisk());
  }

  private TroubledDisk(Disk disk) {
    super(disk);
  }

  synchronized void befall(Path folder, Trouble trouble) {
    troubles.put(folder, trouble);
  }

  synchronized void heal(Path folder) {
    troubles.remove(folder);
    notifyAll();
  }

  private Trouble at(Path path) {
    return troubles.entrySet().stream()
        .filter(t -> path.startsWith(t.getKey()))
        .map(Map.Entry::getValue)
        .findFirst()
        .orElse(null);
  }

  @Override
  protected synchronized void pass(Path path) {
    while (at(path) == Trouble.HANGS) {
      try {
        wait();
      } catch (InterruptedException stopped) {
        Thread.currentThread().interrupt();
        return;
      }
    }
    if (at(path) == Trouble.THROWS) {
      throw new IllegalStateException("Nobody thought of " + path);
    }
    if (at(path) == Trouble.ENDS_WITH_AN_ERROR) {
      throw new LinkageError("Nobody thought of " + path);
    }
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    if (at(folder) == Trouble.CANNOT_BE_LISTED) {
      throw new AccessDeniedException(folder.toString());
    }
    return super.list(folder);
  }

  @Override
  public long room(Path folder) throws IOException {
    return at(folder) == Trouble.NEARLY_FULL ? 700_000_000 : super.room(folder);
  }
}
