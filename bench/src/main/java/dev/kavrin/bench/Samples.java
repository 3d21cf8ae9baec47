package dev.kavrin.bench;

import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.Random;
import java.util.stream.Stream;

/** Files to measure with. */
final class Samples {
  private Samples() {}

  /** Takes a folder away and waits for the drive. */
  static void clearAll(Path folder) throws Exception {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
    Contest.command("sync", "-f", folder.getParent().toString());
  }

  /** Random bytes, on the drive when this ends. */
  static void fill(Path file, long size, long seed) throws Exception {
    write(file, size, seed);
    Contest.command("sync", file.toString());
  }

  /** The same, not yet on the drive. */
  static void write(Path file, long size, long seed) throws Exception {
    byte[] block = new byte[1 << 20];
    Random random = new Random(seed);
    try (OutputStream out = Files.newOutputStream(file)) {
      for (long left = size; left > 0; left -= block.length) {
        random.nextBytes(block);
        out.write(block, 0, (int) Math.min(block.length, left));
      }
    }
  }

  /** Takes a file away and waits for the drive, so that the next turn does not pay for it. */
  static void clear(Path file) throws Exception {
    Files.delete(file);
    Contest.command("sync", file.getParent().toString());
  }
}
