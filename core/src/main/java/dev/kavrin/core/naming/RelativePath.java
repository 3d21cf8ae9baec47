package dev.kavrin.core.naming;

import java.nio.file.Path;

/**
 * Paths within a folder as records and journals have them: with slashes, whatever the system puts
 * between names, so that one system reads what another wrote.
 */
public final class RelativePath {
  private RelativePath() {}

  /** Of a file within a folder. */
  public static String of(Path folder, Path file) {
    return folder.relativize(file).toString().replace(file.getFileSystem().getSeparator(), "/");
  }

  /**
   * @param folder as text, of the same system as the file
   */
  public static String of(String folder, Path file) {
    return of(file.getFileSystem().getPath(folder), file);
  }
}
