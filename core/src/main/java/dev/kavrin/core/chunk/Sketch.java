package dev.kavrin.core.chunk;

import com.dynatrace.hash4j.hashing.Hasher64;
import com.dynatrace.hash4j.hashing.Hashing;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.TreeMap;

/**
 * What two files can be told apart by without keeping them: the smallest hashes of their chunks
 * (bottom-k min-hash: A. Broder, "On the resemblance and containment of documents", 1997 (from
 * memory)). Exact as long as a file has fewer chunks than are kept.
 *
 * @param hashes of the chunks, rising, at most {@value #KEPT}
 * @param lengths of those chunks, in the same order
 * @param length bytes of the whole file
 */
public record Sketch(long[] hashes, int[] lengths, long length) {
  /** How many chunks are kept. */
  public static final int KEPT = 1024;

  private static final Hasher64 HASHER = Hashing.xxh3_64();

  /** Reads a stream to its end. */
  public static Sketch of(InputStream in) throws IOException {
    TreeMap<Long, Integer> smallest = new TreeMap<>();
    long[] total = new long[1];
    Chunks.cut(
        in,
        (bytes, offset, length) -> {
          total[0] += length;
          smallest.put(HASHER.hashBytesToLong(bytes, offset, length), length);
          if (smallest.size() > KEPT) {
            smallest.pollLastEntry();
          }
        });
    return new Sketch(
        smallest.keySet().stream().mapToLong(Long::longValue).toArray(),
        smallest.values().stream().mapToInt(Integer::intValue).toArray(),
        total[0]);
  }

  /**
   * The share of the smaller file's bytes that the other holds too, 0 to 1; estimated over the
   * hashes that both sketches cover.
   */
  public double shared(Sketch other) {
    long limit =
        Math.min(
            hashes.length < KEPT ? Long.MAX_VALUE : hashes[KEPT - 1],
            other.hashes.length < KEPT ? Long.MAX_VALUE : other.hashes[KEPT - 1]);
    long common = 0;
    long mine = 0;
    long theirs = 0;
    for (int i = 0; i < hashes.length && hashes[i] <= limit; i++) {
      mine += lengths[i];
      if (Arrays.binarySearch(other.hashes, hashes[i]) >= 0) {
        common += lengths[i];
      }
    }
    for (int i = 0; i < other.hashes.length && other.hashes[i] <= limit; i++) {
      theirs += other.lengths[i];
    }
    long smaller = Math.min(mine, theirs);
    return smaller == 0 ? 0 : (double) common / smaller;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof Sketch that
        && length == that.length
        && Arrays.equals(hashes, that.hashes)
        && Arrays.equals(lengths, that.lengths);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(hashes);
  }

  @Override
  public String toString() {
    return hashes.length + " chunks of " + length + " bytes";
  }
}
