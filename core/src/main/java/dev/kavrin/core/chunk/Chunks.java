package dev.kavrin.core.chunk;

import java.io.IOException;
import java.io.InputStream;
import java.util.SplittableRandom;

/**
 * Cuts a stream where its content says, so that an insertion moves no cut but those around it.
 * FastCDC with normalised chunking: W. Xia et al., USENIX ATC 2016 (from memory).
 */
public final class Chunks {
  private static final int SHORTEST = 256;
  private static final int USUAL = 1 << 10;
  private static final int LONGEST = 8 << 10;
  private static final int BITS = 12;
  private static final int FEWER = 4;
  private static final long[] GEAR = new SplittableRandom(0x6B6176).longs(256).toArray();

  private Chunks() {}

  /** Takes chunks in the order of the stream. */
  @FunctionalInterface
  public interface Taker {
    /** The bytes are valid during the call only. */
    void take(byte[] bytes, int offset, int length) throws IOException;
  }

  /** So many bits, spread over the upper half where the rolling sum knows most. */
  private static long mask(int bits) {
    long mask = 0;
    for (int i = 0; i < bits; i++) {
      mask |= 1L << (63 - 2 * i);
    }
    return mask;
  }

  /** Reads to the end; memory does not grow with the stream. */
  public static void cut(InputStream in, Taker taker) throws IOException {
    cut(in, 0, taker);
  }

  /**
   * The same with chunks that are {@code 2^scale} times as long, for files of which fewer are to be
   * kept.
   */
  public static void cut(InputStream in, int scale, Taker taker) throws IOException {
    int longest = LONGEST << scale;
    byte[] buffer = new byte[4 * longest];
    int filled = 0;
    boolean more = true;
    while (more || filled > 0) {
      while (more && filled < buffer.length) {
        int n = in.read(buffer, filled, buffer.length - filled);
        more = n >= 0;
        filled += Math.max(0, n);
      }
      int at = 0;
      while (filled - at >= longest || !more && at < filled) {
        int length = length(buffer, at, Math.min(longest, filled - at), scale);
        taker.take(buffer, at, length);
        at += length;
      }
      System.arraycopy(buffer, at, buffer, 0, filled - at);
      filled -= at;
    }
  }

  private static int length(byte[] bytes, int from, int most, int scale) {
    int shortest = Math.min(SHORTEST << scale, most);
    int usual = Math.max(shortest, Math.min(USUAL << scale, most));
    long[] gear = GEAR;
    long before = mask(BITS + scale);
    long after = mask(BITS - FEWER + scale);
    long sum = 0;
    int at = from + shortest;
    for (int end = from + usual; at < end; at++) {
      sum = (sum << 1) + gear[bytes[at] & 0xFF];
      if ((sum & before) == 0) {
        return at + 1 - from;
      }
    }
    for (int end = from + most; at < end; at++) {
      sum = (sum << 1) + gear[bytes[at] & 0xFF];
      if ((sum & after) == 0) {
        return at + 1 - from;
      }
    }
    return most;
  }
}
