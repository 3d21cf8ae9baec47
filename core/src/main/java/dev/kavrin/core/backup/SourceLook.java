package dev.kavrin.core.backup;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.locks.LockSupport;

/** The first look at a file that is to be copied. */
final class SourceLook {
  private static final Duration FINE = Duration.ofMillis(25);
  private static final long SECOND = 1_000_000_000L;

  private final Disk disk;

  SourceLook(Disk disk) {
    this.disk = disk;
  }

  /**
   * Times of last write rise in steps. A second write within the step of the first would go unseen,
   * so a file written just now is looked at again once that step is over.
   */
  FileFacts rested(Path source) throws IOException {
    FileFacts facts = plainFile(source);
    Duration age = Duration.between(facts.modified(), Instant.now());
    Duration step = step(facts);
    if (age.isNegative() || age.compareTo(step) >= 0) {
      return facts;
    }
    LockSupport.parkNanos(step.minus(age).toNanos());
    return plainFile(source);
  }

  /** A time in whole seconds may be all the folder can keep; some keep every other second. */
  private static Duration step(FileFacts facts) {
    return facts.modifiedNanos() % SECOND == 0 ? Duration.ofSeconds(2) : FINE;
  }

  private FileFacts plainFile(Path source) throws IOException {
    FileFacts facts =
        disk.facts(source).orElseThrow(() -> new NoSuchFileException(source.toString()));
    if (!facts.isFile()) {
      String what =
          switch (facts.kind()) {
            case LINK -> "a link to somewhere else";
            case FOLDER -> "a folder";
            default -> "a device or pipe";
          };
      throw new SourceException.NotAFile(source, what);
    }
    return facts;
  }
}
