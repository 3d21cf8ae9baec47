package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.file.Path;

/** What was read back is not what was written. */
public final class VerifyException extends IOException {
  VerifyException(Path file, Checksum wrote, Checksum read) {
    super(
        "Read back from %s: wrote %s, found %s (a failing drive?). Nothing was published"
            .formatted(file, wrote, read));
  }
}
