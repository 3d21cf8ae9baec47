package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.nio.file.Path;

/** What was read back from the device is not what was written. */
public final class VerifyException extends IOException {
  private final transient Path file;
  private final transient ContentId expected;
  private final transient ContentId actual;

  public VerifyException(Path file, ContentId expected, ContentId actual) {
    super(
        "Read back from "
            + file
            + ": expected "
            + expected
            + ", found "
            + actual
            + " (a failing drive?). Nothing was published");
    this.file = file;
    this.expected = expected;
    this.actual = actual;
  }

  public Path file() {
    return file;
  }

  public ContentId expected() {
    return expected;
  }

  public ContentId actual() {
    return actual;
  }
}
