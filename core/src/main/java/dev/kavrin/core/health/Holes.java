package dev.kavrin.core.health;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.units.Sizes;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/**
 * Files of which most was never written: what a copy leaves that was promised its size and then
 * stopped. Told by the file system, without reading.
 */
final class Holes {
  /** Smaller ones are how file systems and formats save room (own rule, no source). */
  private static final long SMALLEST = 1_000_000;

  private Holes() {}

  static Optional<Finding> in(Disk disk, Path file, long size) throws IOException {
    long holes = disk.holes(file).orElse(0);
    return holes < SMALLEST || holes * 2 < size
        ? Optional.empty()
        : Optional.of(
            Finding.doubtful(
                "never-written",
                -1,
                Sizes.words(holes)
                    + " of its "
                    + Sizes.words(size)
                    + " were never written: there is nothing but zeros."));
  }
}
