package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.UnaryOperator;

/**
 * Another disk of which nothing is waited for without end: a folder whose calls do not return, as
 * on a dead share, is {@link NotAnsweringException not answering} and costs only itself.
 */
public final class AnsweringDisk implements Disk {
  private final Disk disk;
  private final UnaryOperator<Path> folders;
  private final Answering.All all;

  /**
   * @param folders the folder whose answers a path shares
   * @param patience how long a folder may take to answer what it does at once when it is well
   */
  public AnsweringDisk(Disk disk, UnaryOperator<Path> folders, Duration patience) {
    this.disk = disk;
    this.folders = folders;
    this.all = new Answering.All(disk, patience, callers());
  }

  private static ExecutorService callers() {
    AtomicInteger count = new AtomicInteger();
    return Executors.newCachedThreadPool(
        task -> {
          Thread thread = new Thread(task, "disk-" + count.incrementAndGet());
          thread.setDaemon(true);
          return thread;
        });
  }

  /** False from a call that did not return until it has. */
  public boolean answers(Path path) {
    return all.answers(folders.apply(path));
  }

  private Answering at(Path path) {
    return all.of(folders.apply(path));
  }

  private void change(Path path, Change change) throws IOException {
    at(path)
        .patiently(
            () -> {
              change.make();
              return null;
            });
  }

  private interface Change {
    void make() throws IOException;
  }

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    return at(path).quickly(() -> disk.facts(path));
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    return at(folder).patiently(() -> disk.list(folder));
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    return AnsweringChannel.open(at(file), () -> disk.read(file));
  }

  @Override
  public Sink create(Path file) throws IOException {
    Answering folder = at(file);
    return new AnsweringSink(folder, folder.patiently(() -> disk.create(file)));
  }

  @Override
  public Sink append(Path file) throws IOException {
    Answering folder = at(file);
    return new AnsweringSink(folder, folder.patiently(() -> disk.append(file)));
  }

  @Override
  public void makeFolder(Path folder) throws IOException {
    change(folder, () -> disk.makeFolder(folder));
  }

  @Override
  public void link(Path existing, Path added) throws IOException {
    change(added, () -> disk.link(existing, added));
  }

  @Override
  public void unlink(Path file) throws IOException {
    change(file, () -> disk.unlink(file));
  }

  @Override
  public void removeFolder(Path folder) throws IOException {
    change(folder, () -> disk.removeFolder(folder));
  }

  @Override
  public void rename(Path from, Path to) throws IOException {
    change(to, () -> disk.rename(from, to));
  }

  @Override
  public boolean exchange(Path a, Path b) throws IOException {
    return at(b).patiently(() -> disk.exchange(a, b));
  }

  @Override
  public boolean renameIfFree(Path from, Path to) throws IOException {
    return at(to).patiently(() -> disk.renameIfFree(from, to));
  }

  @Override
  public boolean cloneTo(Path from, Path to) throws IOException {
    return at(to).patiently(() -> disk.cloneTo(from, to));
  }

  @Override
  public void flushFolder(Path folder) throws IOException {
    change(folder, () -> disk.flushFolder(folder));
  }

  @Override
  public long room(Path folder) throws IOException {
    return at(folder).quickly(() -> disk.room(folder));
  }

  @Override
  public long capacity(Path folder) throws IOException {
    return at(folder).quickly(() -> disk.capacity(folder));
  }

  @Override
  public boolean mayBeWritten(Path file) {
    return disk.mayBeWritten(file);
  }

  @Override
  public void touch(Path file, long modifiedNanos) throws IOException {
    change(file, () -> disk.touch(file, modifiedNanos));
  }

  @Override
  public void seal(Path file) throws IOException {
    change(file, () -> disk.seal(file));
  }

  @Override
  public List<String> adoptOwnership(Path like, Path file) throws IOException {
    return at(file).patiently(() -> disk.adoptOwnership(like, file));
  }

  @Override
  public List<String> cannotKeep(Path file) throws IOException {
    return at(file).quickly(() -> disk.cannotKeep(file));
  }

  @Override
  public boolean keepsPermissions(Path file) throws IOException {
    return at(file).patiently(() -> disk.keepsPermissions(file));
  }

  @Override
  public String device(Path path) throws IOException {
    return at(path).quickly(() -> disk.device(path));
  }

  @Override
  public OptionalLong holes(Path file) throws IOException {
    return at(file).patiently(() -> disk.holes(file));
  }

  @Override
  public Optional<Instant> born(Path file) throws IOException {
    return at(file).quickly(() -> disk.born(file));
  }
}
