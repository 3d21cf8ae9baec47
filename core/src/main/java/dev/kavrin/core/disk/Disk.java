package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * The one port to files. Reading is open to all; whatever moves, overwrites or deletes is called by
 * {@link Publisher} alone. Paths are absolute. No method follows a link that stands at the last
 * name of a path. Absent files are a {@link java.nio.file.NoSuchFileException}, taken names a
 * {@link java.nio.file.FileAlreadyExistsException}. Safe for several threads.
 */
public interface Disk {
  /** Empty if nothing stands at the name. */
  Optional<FileFacts> facts(Path path) throws IOException;

  /** True if a plain file stands there; false also where nobody can tell. */
  default boolean isFile(Path path) {
    try {
      return facts(path).filter(FileFacts::isFile).isPresent();
    } catch (IOException nobodyCanTell) {
      return false;
    }
  }

  /** Names in a folder, unordered, "." and ".." left out; whole paths. */
  List<Path> list(Path folder) throws IOException;

  /** Opens for reading from the start; the caller closes. Fails on a link or a folder. */
  SeekableByteChannel read(Path file) throws IOException;

  /** Makes a new, empty file that only its owner may read. */
  Sink create(Path file) throws IOException;

  /** Opens for writing at the end, made if absent. For journals only. */
  Sink append(Path file) throws IOException;

  /**
   * Makes one folder in one that is there; its name need not be on the device yet.
   *
   * @throws java.nio.file.FileAlreadyExistsException the name is taken
   */
  void makeFolder(Path folder) throws IOException;

  /** Makes the folder and those above it that are absent; their names are on the device then. */
  default void makeFolders(Path folder) throws IOException {
    Path parent = folder.getParent();
    if (parent == null || isFolder(folder)) {
      return;
    }
    makeFolders(parent);
    try {
      makeFolder(folder);
    } catch (FileAlreadyExistsException taken) {
      if (!isFolder(folder)) {
        throw taken;
      }
    }
    flushFolder(parent);
  }

  private boolean isFolder(Path path) throws IOException {
    return facts(path).filter(f -> f.isFolder() || f.kind() == FileFacts.Kind.LINK).isPresent();
  }

  /** Gives the file a second name. Never overwrites. Fails where the device has no hard links. */
  void link(Path existing, Path added) throws IOException;

  void unlink(Path file) throws IOException;

  /** Takes away a folder with nothing in it. */
  void removeFolder(Path folder) throws IOException;

  /** Names between which a file is moved. */
  record Move(Path from, Path to) {}

  /**
   * How a file that is to be moved lies there: under other names if it is put together from others.
   *
   * @throws FileAlreadyExistsException it is, and something stands at the target
   */
  default Move asItLies(Path from, Path to) throws IOException {
    return new Move(from, to);
  }

  /** Moves on one device; what stands at the target is silently replaced. */
  void rename(Path from, Path to) throws IOException;

  /** Swaps two names in one step; false where the kernel or the device cannot. */
  boolean exchange(Path a, Path b) throws IOException;

  /**
   * Moves on one device to a name that is free, in one step; false, and nothing touched, where the
   * kernel or the device cannot.
   *
   * @throws java.nio.file.FileAlreadyExistsException the name is taken
   */
  boolean renameIfFree(Path from, Path to) throws IOException;

  /**
   * Makes a new file with the same bytes that needs no room until one of the two is written; false,
   * and nothing made, where the device cannot.
   */
  boolean cloneTo(Path from, Path to) throws IOException;

  /** Returns once the folder's names are on the device. */
  void flushFolder(Path folder) throws IOException;

  /** Bytes a person's program could still write there. */
  long room(Path folder) throws IOException;

  /** Bytes its device holds in all. */
  long capacity(Path folder) throws IOException;

  /**
   * True if a process that can be seen has the file open for writing or mapped shared. Writes
   * through mapped memory may leave the time of last write as it was.
   */
  boolean mayBeWritten(Path file);

  /** Sets the last-write time, nanoseconds since 1970. */
  void touch(Path file, long modifiedNanos) throws IOException;

  /** From now on everybody who may see it may read the file, and nobody write it. */
  void seal(Path file) throws IOException;

  /**
   * Gives {@code file} owner, group, permissions and extended attributes of {@code like}, as far as
   * this user may.
   *
   * @return what it could not keep, in words; empty if all is kept
   */
  List<String> adoptOwnership(Path like, Path file) throws IOException;

  /** What {@link #adoptOwnership} could not keep of a file, in words, found out beforehand. */
  List<String> cannotKeep(Path file) throws IOException;

  /** True if permission bits set on a file of this user's stay as they were set. */
  boolean keepsPermissions(Path file) throws IOException;

  /** Names the device a path lies on; equal names mean one device. */
  String device(Path path) throws IOException;

  /** When the file came to be under any name; empty where nobody can tell. */
  Optional<Instant> born(Path file) throws IOException;

  /** Bytes of a file that were never written, all holes together; empty where nobody can tell. */
  OptionalLong holes(Path file) throws IOException;
}
