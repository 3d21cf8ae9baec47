package dev.kavrin.core.disk;

import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.Set;

/**
 * Files that only ever grow, line by line: their whole lines so far are worth a copy while the last
 * one is still being written.
 */
public final class WholeLines {
  private static final Set<String> ENDINGS = Set.of("jsonl", "ndjson", "csv", "tsv", "log");
  private static final int BLOCK = 1 << 16;

  private WholeLines() {}

  /** True for kinds that are written line by line. */
  public static boolean growBy(String name) {
    return ENDINGS.contains(FileName.of(name).lowerExt());
  }

  /** Bytes up to the end of the last whole line within the first {@code size}; 0 if none ended. */
  public static long end(Disk disk, Path file, long size) throws IOException {
    ByteBuffer block = ByteBuffer.allocate(BLOCK);
    try (SeekableByteChannel in = disk.read(file)) {
      for (long to = size; to > 0; to -= BLOCK) {
        long from = Math.max(0, to - BLOCK);
        block.clear().limit((int) (to - from));
        in.position(from);
        while (block.hasRemaining() && in.read(block) >= 0) {}
        for (int i = block.position() - 1; i >= 0; i--) {
          if (block.get(i) == '\n') {
            return from + i + 1;
          }
        }
      }
    }
    return 0;
  }
}
