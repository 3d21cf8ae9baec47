package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;

/** Compares files byte by byte; a digest alone never decides that one may go for the other. */
public final class SameBytes {
  private static final int BLOCK = 1 << 18;

  private SameBytes() {}

  public static boolean in(Disk disk, Path a, Path b) throws IOException {
    try (SeekableByteChannel open = disk.read(b)) {
      return in(disk, a, open);
    }
  }

  /** The same against what is open already; its end is reached and it stays open. */
  public static boolean in(Disk disk, Path a, SeekableByteChannel b) throws IOException {
    try (SeekableByteChannel open = disk.read(a)) {
      return in(open, b);
    }
  }

  /** The same of what is open already; the end of both is reached and they stay open. */
  public static boolean in(SeekableByteChannel a, SeekableByteChannel b) throws IOException {
    ByteBuffer blockA = ByteBuffer.allocate(BLOCK);
    ByteBuffer blockB = ByteBuffer.allocate(BLOCK);
    do {
      fill(a, blockA);
      fill(b, blockB);
      if (!blockA.equals(blockB)) {
        return false;
      }
    } while (blockA.hasRemaining());
    return true;
  }

  private static void fill(SeekableByteChannel in, ByteBuffer block) throws IOException {
    block.clear();
    while (block.hasRemaining() && in.read(block) >= 0) {
      // Until it is full or there is no more.
    }
    block.flip();
  }
}
