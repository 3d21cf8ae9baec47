package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * The one port to files. Reading is open to all; whatever moves, overwrites or deletes is called by
 * {@link Publisher} alone. Paths are absolute. No method follows a link that stands at the last
 * name of a path. Absent files are a {@link java.nio.file.NoSuchFileException}, taken names a
 * {@link java.nio.file.FileAlreadyExistsException}. Safe for several threads.
 */
public interface Disk {
  /** Empty if nothing stands at the name. */
  Optional<FileFacts> facts(Path path) throws IOException;

  /** Names in a folder, unordered, "." and ".." left out; whole paths. */
  List<Path> list(Path folder) throws IOException;

  /** Opens for reading from the start; the caller closes. Fails on a link or a folder. */
  SeekableByteChannel read(Path file) throws IOException;

  /** Makes a new, empty file that only its owner may read. */
  Sink create(Path file) throws IOException;

  /** Opens for writing at the end, made if absent. For journals only. */
  Sink append(Path file) throws IOException;

  /** Makes the folder and those above it that are absent. */
  void makeFolders(Path folder) throws IOException;

  /** Gives the file a second name. Never overwrites. Fails where the device has no hard links. */
  void link(Path existing, Path added) throws IOException;

  void unlink(Path file) throws IOException;

  /** Takes away a folder with nothing in it. */
  void removeFolder(Path folder) throws IOException;

  /** Moves on one device; what stands at the target is silently replaced. */
  void rename(Path from, Path to) throws IOException;

  /** Swaps two names in one step; false where the kernel or the device cannot. */
  boolean exchange(Path a, Path b) throws IOException;

  /** Returns once the folder's names are on the device. */
  void flushFolder(Path folder) throws IOException;

  /** Bytes a person's program could still write there. */
  long room(Path folder) throws IOException;

  /**
   * True if a process that can be seen has the file open for writing or mapped shared. Writes
   * through mapped memory may leave the time of last write as it was.
   */
  boolean mayBeWritten(Path file);

  /** Sets the last-write time, nanoseconds since 1970. */
  void touch(Path file, long modifiedNanos) throws IOException;

  /** From now on everybody who may see it may read the file, and nobody write it. */
  void seal(Path file) throws IOException;

  /** Gives {@code file} the permissions of {@code like}, and its owner and group where it may. */
  void adoptPermissions(Path like, Path file) throws IOException;
}
