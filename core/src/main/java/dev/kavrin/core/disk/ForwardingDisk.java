package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/** Another disk, in all that is not overridden. */
public abstract class ForwardingDisk implements Disk {
  private final Disk disk;

  protected ForwardingDisk(Disk disk) {
    this.disk = disk;
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    return disk.read(file);
  }

  @Override
  public Sink create(Path file) throws IOException {
    return disk.create(file);
  }

  @Override
  public Sink append(Path file) throws IOException {
    return disk.append(file);
  }

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    return disk.facts(path);
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    return disk.list(folder);
  }

  @Override
  public void removeFolder(Path folder) throws IOException {
    disk.removeFolder(folder);
  }

  @Override
  public void makeFolder(Path folder) throws IOException {
    disk.makeFolder(folder);
  }

  @Override
  public void link(Path existing, Path added) throws IOException {
    disk.link(existing, added);
  }

  @Override
  public Move asItLies(Path from, Path to) throws IOException {
    return disk.asItLies(from, to);
  }

  @Override
  public void unlink(Path file) throws IOException {
    disk.unlink(file);
  }

  @Override
  public void rename(Path from, Path to) throws IOException {
    disk.rename(from, to);
  }

  @Override
  public boolean exchange(Path a, Path b) throws IOException {
    return disk.exchange(a, b);
  }

  @Override
  public void flushFolder(Path folder) throws IOException {
    disk.flushFolder(folder);
  }

  @Override
  public long room(Path folder) throws IOException {
    return disk.room(folder);
  }

  @Override
  public long capacity(Path folder) throws IOException {
    return disk.capacity(folder);
  }

  @Override
  public boolean mayBeWritten(Path file) {
    return disk.mayBeWritten(file);
  }

  @Override
  public void touch(Path file, long modifiedNanos) throws IOException {
    disk.touch(file, modifiedNanos);
  }

  @Override
  public void seal(Path file) throws IOException {
    disk.seal(file);
  }

  @Override
  public boolean renameIfFree(Path from, Path to) throws IOException {
    return disk.renameIfFree(from, to);
  }

  @Override
  public boolean cloneTo(Path from, Path to) throws IOException {
    return disk.cloneTo(from, to);
  }

  @Override
  public List<String> adoptOwnership(Path like, Path file) throws IOException {
    return disk.adoptOwnership(like, file);
  }

  @Override
  public List<String> cannotKeep(Path file) throws IOException {
    return disk.cannotKeep(file);
  }

  @Override
  public boolean keepsPermissions(Path file) throws IOException {
    return disk.keepsPermissions(file);
  }

  @Override
  public String device(Path path) throws IOException {
    return disk.device(path);
  }

  @Override
  public OptionalLong holes(Path file) throws IOException {
    return disk.holes(file);
  }

  @Override
  public Optional<Instant> born(Path file) throws IOException {
    return disk.born(file);
  }
}
