package dev.kavrin.server;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.Sink;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.AccessDeniedException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** This machine's disk, with folders that hang, throw, or cannot be listed. */
final class TroubledDisk extends ForwardingDisk {
  /** What is wrong with a folder and all in it. */
  enum Trouble {
    HANGS,
    THROWS,
    ENDS_WITH_AN_ERROR,
    CANNOT_BE_LISTED
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

  private synchronized void reach(Path path) {
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
  public Optional<FileFacts> facts(Path path) throws IOException {
    reach(path);
    return super.facts(path);
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    reach(folder);
    if (at(folder) == Trouble.CANNOT_BE_LISTED) {
      throw new AccessDeniedException(folder.toString());
    }
    return super.list(folder);
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    reach(file);
    return super.read(file);
  }

  @Override
  public Sink create(Path file) throws IOException {
    reach(file);
    return super.create(file);
  }

  @Override
  public Sink append(Path file) throws IOException {
    reach(file);
    return super.append(file);
  }
}
