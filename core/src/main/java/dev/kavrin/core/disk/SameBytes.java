package dev.kavrin.core.disk;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.Arrays;

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
    InputStream inA = new BufferedInputStream(Channels.newInputStream(a), BLOCK);
    InputStream inB = new BufferedInputStream(Channels.newInputStream(b), BLOCK);
    while (true) {
      byte[] blockA = inA.readNBytes(BLOCK);
      byte[] blockB = inB.readNBytes(BLOCK);
      if (!Arrays.equals(blockA, blockB)) {
        return false;
      }
      if (blockA.length < BLOCK) {
        return true;
      }
    }
  }
}
