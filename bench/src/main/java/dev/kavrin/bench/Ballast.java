package dev.kavrin.bench;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Memory taken away from the page cache, so that a file need not be huge to be larger than it. */
final class Ballast implements AutoCloseable {
  private static final int BLOCK = 1 << 28;
  private static final int PAGE = 4096;

  private final List<ByteBuffer> blocks = new ArrayList<>();

  /** Takes all that is available but {@code left} bytes. */
  Ballast(long left) throws IOException {
    for (long more = available() - left; more > BLOCK; more -= BLOCK) {
      ByteBuffer block = ByteBuffer.allocateDirect(BLOCK);
      for (int at = 0; at < BLOCK; at += PAGE) {
        block.put(at, (byte) 1);
      }
      blocks.add(block);
    }
  }

  /** Bytes the page cache could still take. */
  static long available() throws IOException {
    return Files.readAllLines(Path.of("/proc/meminfo")).stream()
        .filter(line -> line.startsWith("MemAvailable:"))
        .mapToLong(line -> Long.parseLong(line.replaceAll("\\D", "")) * 1024)
        .findFirst()
        .orElseThrow();
  }

  @Override
  public void close() {
    blocks.clear();
    System.gc();
  }
}
