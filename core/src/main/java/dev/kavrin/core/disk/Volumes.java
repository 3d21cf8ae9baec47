package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;

/** What lies under a folder: file system, room and physical disks, as its system has it. */
public interface Volumes {
  /** As the path's own system has it; where that tells little, a fallback that says so. */
  static Volumes of(Path path) {
    return path.getFileSystem().supportedFileAttributeViews().contains("unix")
        ? new LinuxVolumes()
        : new PlainVolumes();
  }

  /**
   * What tells the file system of a path from others of this machine.
   *
   * @throws IOException the path is not there
   */
  String device(Path path) throws IOException;

  /** Bytes this user may still write there. */
  long room(Path folder) throws IOException;

  /** Bytes it holds in all. */
  long capacity(Path folder) throws IOException;

  /** Names of the whole disks behind a folder; empty where that cannot be told. */
  Optional<Set<String>> disks(Path folder);

  /** Puts names that were changed in a folder on the disk, where a folder can be asked for that. */
  void flush(Path folder) throws IOException;
}
