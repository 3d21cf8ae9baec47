package dev.kavrin.core.incident;

import dev.kavrin.core.journal.FolderMarker;
import java.nio.file.Path;
import java.util.UUID;

/** Where files of a program are kept beside it for a while, under Kavrin's own folder there. */
final class RetainedNames {
  /** Named by the first release; what it left there is still found. */
  private static final String FOLDER = "held";

  private RetainedNames() {}

  /** Of all that is retained of the files of a folder. */
  static Path in(Path folder) {
    return folder.resolve(FolderMarker.FOLDER).resolve(FOLDER);
  }

  /** Of one file, for one purpose. */
  static Path of(Path file, UUID purpose) {
    return in(file.getParent()).resolve(purpose.toString());
  }
}
