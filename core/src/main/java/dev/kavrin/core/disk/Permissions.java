package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.file.Path;
import java.nio.file.attribute.FileAttribute;
import java.util.List;
import java.util.Optional;

/** Whose files are and who may do what with them, as the system a path belongs to has it. */
public interface Permissions {
  /** As the path's own system has it; where that has no such thing, a fallback that says so. */
  static Permissions of(Path path) {
    return path.getFileSystem().supportedFileAttributeViews().contains("posix")
        ? new PosixPermissions()
        : new PlainPermissions();
  }

  /** What a new file is made with so that only its owner may read it. */
  FileAttribute<?>[] ownerOnly();

  /** True if others than its owner may read or write a file; empty where that cannot be told. */
  Optional<Boolean> opensToOthers(Path file) throws IOException;

  /** Takes from everybody the right to write a file, as far as there is such a right. */
  void seal(Path file) throws IOException;

  /**
   * Gives a file the owner, group, permissions and attributes of another, as far as this user may.
   *
   * @return what could not be kept, in words
   */
  List<String> give(Path like, Path file) throws IOException;

  /** What this user could not give to another file, in words. */
  List<String> cannotKeep(Path file) throws IOException;

  /** True if permissions set on a file are still there when they are read again. */
  boolean stayAsSet(Path file) throws IOException;
}
