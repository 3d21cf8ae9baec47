package dev.kavrin.core.content;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import org.apache.commons.io.input.BoundedInputStream;

/** Reads stretches of a file. */
public final class Bytes {
  private static final int BLOCK = 1 << 16;

  private Bytes() {}

  /**
   * Exactly so many bytes, little-endian, ready to be read.
   *
   * @throws IOException the file ends before
   */
  public static ByteBuffer at(SeekableByteChannel in, long offset, int count) throws IOException {
    ByteBuffer buffer = ByteBuffer.allocate(count).order(ByteOrder.LITTLE_ENDIAN);
    in.position(offset);
    while (buffer.hasRemaining()) {
      if (in.read(buffer) < 0) {
        throw new IOException("The file became shorter while it was read");
      }
    }
    return buffer.flip();
  }

  /** The first bytes, at most so many. */
  public static ByteBuffer head(SeekableByteChannel in, int most) throws IOException {
    return at(in, 0, (int) Math.min(most, in.size()));
  }

  /** A stream from an offset on; closing it leaves the file open. */
  public static InputStream from(SeekableByteChannel in, long offset) throws IOException {
    in.position(offset);
    return Channels.newInputStream(new Unclosed(in));
  }

  /** A stream of what stands between two offsets; closing it leaves the file open. */
  public static InputStream between(SeekableByteChannel in, long from, long to) throws IOException {
    return BoundedInputStream.builder()
        .setInputStream(from(in, from))
        .setMaxCount(to - from)
        .setPropagateClose(false)
        .get();
  }

  /**
   * How many bytes before the end are zero.
   *
   * @param most so many are looked at
   */
  public static long zerosAtEnd(SeekableByteChannel in, long most) throws IOException {
    long size = in.size();
    long run = 0;
    while (run < most) {
      int length = (int) Math.min(BLOCK, most - run);
      byte[] block = at(in, size - run - length, length).array();
      int at = length;
      while (at > 0 && block[at - 1] == 0) {
        at--;
      }
      run += length - at;
      if (at > 0) {
        break;
      }
    }
    return run;
  }

  /** Reads a stream to its end and throws its bytes away; how many there were. */
  public static long drain(InputStream in) throws IOException {
    byte[] block = new byte[BLOCK];
    long total = 0;
    for (int n = in.read(block); n >= 0; n = in.read(block)) {
      total += n;
    }
    return total;
  }
}
