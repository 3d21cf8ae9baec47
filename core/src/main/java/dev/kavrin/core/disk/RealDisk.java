package dev.kavrin.core.disk;

import dev.kavrin.core.host.ProcessTable;
import dev.kavrin.core.units.Moments;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.DirectoryStream;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/** The disk of this machine. */
public final class RealDisk implements Disk {
  private static final ProcessTable PROCESSES = ProcessTable.ofThisMachine();
  private static final List<String> NOTHING_CAN_STAND_THERE =
      List.of("Not a directory", "File name too long");

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    try {
      BasicFileAttributes a =
          Files.readAttributes(path, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
      return Optional.of(
          new FileFacts(kind(a), a.size(), a.lastModifiedTime().to(TimeUnit.NANOSECONDS), key(a)));
    } catch (NoSuchFileException absent) {
      return Optional.empty();
    } catch (FileSystemException odd) {
      if (NOTHING_CAN_STAND_THERE.stream().anyMatch(String.valueOf(odd.getReason())::contains)) {
        return Optional.empty();
      }
      throw odd;
    }
  }

  /** Where a system gives files no number, the time they were made has to do. */
  private static String key(BasicFileAttributes a) {
    return a.fileKey() == null ? "made " + a.creationTime() : a.fileKey().toString();
  }

  private static FileFacts.Kind kind(BasicFileAttributes a) {
    if (a.isRegularFile()) {
      return FileFacts.Kind.FILE;
    }
    if (a.isDirectory()) {
      return FileFacts.Kind.FOLDER;
    }
    return a.isSymbolicLink() ? FileFacts.Kind.LINK : FileFacts.Kind.OTHER;
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    try (DirectoryStream<Path> names = Files.newDirectoryStream(folder)) {
      List<Path> found = new ArrayList<>();
      names.forEach(found::add);
      return found;
    } catch (java.nio.file.DirectoryIteratorException broken) {
      throw broken.getCause();
    }
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    if (Files.isDirectory(file, LinkOption.NOFOLLOW_LINKS)) {
      throw new IOException("A folder, not a file: " + file);
    }
    return Files.newByteChannel(file, StandardOpenOption.READ, LinkOption.NOFOLLOW_LINKS);
  }

  @Override
  public Sink create(Path file) throws IOException {
    return open(file, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
  }

  @Override
  public Sink append(Path file) throws IOException {
    return open(file, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
  }

  private static Sink open(Path file, OpenOption... options) throws IOException {
    Set<OpenOption> all = new java.util.HashSet<>(List.of(options));
    all.add(LinkOption.NOFOLLOW_LINKS);
    FileChannel channel = FileChannel.open(file, all, Permissions.of(file).ownerOnly());
    return new FileSink(channel);
  }

  @Override
  public void removeFolder(Path folder) throws IOException {
    Files.delete(folder);
  }

  @Override
  public void makeFolder(Path folder) throws IOException {
    Files.createDirectory(folder);
  }

  @Override
  public void link(Path existing, Path added) throws IOException {
    Files.createLink(added, existing);
  }

  @Override
  public void unlink(Path file) throws IOException {
    if (Files.isDirectory(file, LinkOption.NOFOLLOW_LINKS)) {
      throw new IOException("A folder, not a file: " + file);
    }
    Files.delete(file);
  }

  @Override
  public void rename(Path from, Path to) throws IOException {
    // Whether an atomic move replaces is each system's own affair (Files.move); asked for, it does.
    Files.move(from, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
  }

  @Override
  public boolean exchange(Path a, Path b) throws IOException {
    return Kernel.swap(a, b);
  }

  @Override
  public void flushFolder(Path folder) throws IOException {
    if (!Files.isDirectory(folder)) {
      throw new NotDirectoryException(folder.toString());
    }
    Volumes.of(folder).flush(folder);
  }

  @Override
  public long room(Path folder) throws IOException {
    return Volumes.of(folder).room(folder);
  }

  @Override
  public long capacity(Path folder) throws IOException {
    return Volumes.of(folder).capacity(folder);
  }

  @Override
  public boolean mayBeWritten(Path file) {
    return PROCESSES.mayBeWritten(file);
  }

  @Override
  public void touch(Path file, long modifiedNanos) throws IOException {
    Files.setLastModifiedTime(file, FileTime.from(Moments.ofNanos(modifiedNanos)));
  }

  @Override
  public void seal(Path file) throws IOException {
    Permissions.of(file).seal(file);
  }

  @Override
  public boolean renameIfFree(Path from, Path to) throws IOException {
    return Kernel.renameIfFree(from, to);
  }

  @Override
  public boolean cloneTo(Path from, Path to) throws IOException {
    create(to).close();
    if (!Kernel.clone(from, to)) {
      Files.delete(to);
      return false;
    }
    return true;
  }

  @Override
  public List<String> adoptOwnership(Path like, Path file) throws IOException {
    return Permissions.of(file).give(like, file);
  }

  @Override
  public List<String> cannotKeep(Path file) throws IOException {
    return Permissions.of(file).cannotKeep(file);
  }

  @Override
  public boolean keepsPermissions(Path file) throws IOException {
    return Permissions.of(file).stayAsSet(file);
  }

  @Override
  public String device(Path path) throws IOException {
    return Volumes.of(path).device(path);
  }

  @Override
  public OptionalLong holes(Path file) throws IOException {
    return Kernel.holes(file, Files.size(file));
  }

  @Override
  public Optional<Instant> born(Path file) {
    return Kernel.born(file);
  }
}
