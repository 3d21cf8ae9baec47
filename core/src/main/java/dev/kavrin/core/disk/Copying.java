package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;

/** One pass over a file, in blocks small enough to stay in a core's own cache. */
public final class Copying {
  private static final int BLOCK = 1 << 17;

  private Copying() {}

  @FunctionalInterface
  private interface Use {
    void take(byte[] bytes, int count) throws IOException;
  }

  /** Writes the file's bytes into the sink; the caller flushes and closes it. */
  public static void copy(Disk disk, Path source, Sink sink) throws IOException {
    copy(disk, source, Long.MAX_VALUE, sink);
  }

  /** The same for the first bytes only. */
  public static void copy(Disk disk, Path source, long most, Sink sink) throws IOException {
    pass(disk, source, most, (bytes, count) -> sink.write(bytes, 0, count));
  }

  /** Writes what is left of a stream into the sink; neither is closed. */
  public static void copy(InputStream in, Sink sink) throws IOException {
    byte[] block = new byte[BLOCK];
    for (int n = in.read(block); n >= 0; n = in.read(block)) {
      sink.write(block, 0, n);
    }
  }

  public static ContentId identify(Disk disk, Path file) throws IOException {
    return identify(disk, file, Long.MAX_VALUE);
  }

  /** Identity of the first bytes, of all of them if there are fewer. */
  public static ContentId identify(Disk disk, Path file, long most) throws IOException {
    ContentHash hash = new ContentHash();
    pass(disk, file, most, (bytes, count) -> hash.add(bytes, 0, count));
    return hash.id();
  }

  private static void pass(Disk disk, Path source, long most, Use use) throws IOException {
    try (SeekableByteChannel in = disk.read(source)) {
      pass(in, most, use);
    }
  }

  /** Writes what is left of an open file into the sink; neither is closed. */
  static void copy(SeekableByteChannel in, Sink sink) throws IOException {
    pass(in, Long.MAX_VALUE, (bytes, count) -> sink.write(bytes, 0, count));
  }

  private static void pass(SeekableByteChannel in, long most, Use use) throws IOException {
    ByteBuffer block = ByteBuffer.allocate(BLOCK);
    long left = most;
    while (left > 0 && in.read(block.clear().limit((int) Math.min(BLOCK, left))) >= 0) {
      use.take(block.array(), block.position());
      left -= block.position();
    }
  }
}
