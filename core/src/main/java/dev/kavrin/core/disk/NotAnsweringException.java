package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.file.Path;

/** A folder did not answer in time; what was asked of it may still come about. */
public final class NotAnsweringException extends IOException {
  private static final long serialVersionUID = 1;

  NotAnsweringException(Path folder) {
    super(folder + " is not answering");
  }
}
