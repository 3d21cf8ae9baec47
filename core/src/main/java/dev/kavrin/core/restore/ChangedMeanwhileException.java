package dev.kavrin.core.restore;

import java.io.IOException;
import java.nio.file.Path;

/** A file is not what the person was shown. Nothing was touched. */
public final class ChangedMeanwhileException extends IOException {
  private final transient Path file;

  public ChangedMeanwhileException(Path file, String what) {
    super(file + " " + what + ". Nothing was touched; look again");
    this.file = file;
  }

  public Path file() {
    return file;
  }
}
