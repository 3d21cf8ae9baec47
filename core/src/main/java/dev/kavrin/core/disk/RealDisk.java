package dev.kavrin.core.disk;

import dev.kavrin.core.units.Moments;
import java.io.File;
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
import java.nio.file.attribute.PosixFileAttributes;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/** The disk of this machine. */
public final class RealDisk implements Disk {
  private static final List<String> NOTHING_CAN_STAND_THERE =
      List.of("Not a directory", "File name too long");
  private static final Set<PosixFilePermission> OWNER_ONLY =
      PosixFilePermissions.fromString("rw-------");

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    try {
      PosixFileAttributes a =
          Files.readAttributes(path, PosixFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
      return Optional.of(
          new FileFacts(
              kind(a),
              a.size(),
              a.lastModifiedTime().to(TimeUnit.NANOSECONDS),
              a.fileKey().toString()));
    } catch (NoSuchFileException absent) {
      return Optional.empty();
    } catch (FileSystemException odd) {
      if (NOTHING_CAN_STAND_THERE.stream().anyMatch(String.valueOf(odd.getReason())::contains)) {
        return Optional.empty();
      }
      throw odd;
    }
  }

  private static FileFacts.Kind kind(PosixFileAttributes a) {
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
    FileChannel channel =
        FileChannel.open(file, all, PosixFilePermissions.asFileAttribute(OWNER_ONLY));
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
    Files.move(from, to, StandardCopyOption.ATOMIC_MOVE);
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
    try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
      force(channel);
    }
  }

  /** Some file systems know no flush of a folder; that is no failure of the device. */
  private static void force(FileChannel folder) throws IOException {
    try {
      folder.force(true);
    } catch (IOException refused) {
      String words = String.valueOf(refused.getMessage());
      if (!words.contains("Invalid argument") && !words.contains("not supported")) {
        throw refused;
      }
    }
  }

  @Override
  public long room(Path folder) throws IOException {
    return there(folder).getUsableSpace();
  }

  @Override
  public long capacity(Path folder) throws IOException {
    return there(folder).getTotalSpace();
  }

  /**
   * Asked by the folder itself and not by the list of mounts, which in a container or a changed
   * root need not name what lies below a folder.
   */
  private static File there(Path folder) throws IOException {
    Files.readAttributes(folder, BasicFileAttributes.class);
    return folder.toFile();
  }

  @Override
  public boolean mayBeWritten(Path file) {
    return OpenFiles.mayBeWritten(file);
  }

  @Override
  public void touch(Path file, long modifiedNanos) throws IOException {
    Files.setLastModifiedTime(file, FileTime.from(Moments.ofNanos(modifiedNanos)));
  }

  @Override
  public void seal(Path file) throws IOException {
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("r--r--r--"));
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
    return Ownership.of(like).giveTo(file);
  }

  @Override
  public List<String> cannotKeep(Path file) throws IOException {
    return Ownership.of(file).cannotKeep();
  }

  @Override
  public boolean keepsPermissions(Path file) throws IOException {
    return Ownership.staysAsSet(file);
  }

  @Override
  public String device(Path path) throws IOException {
    return String.valueOf(Files.getAttribute(path, "unix:dev", LinkOption.NOFOLLOW_LINKS));
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
