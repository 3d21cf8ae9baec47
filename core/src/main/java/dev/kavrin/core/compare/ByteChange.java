package dev.kavrin.core.compare;

import com.dynatrace.hash4j.hashing.Hasher64;
import com.dynatrace.hash4j.hashing.Hashing;
import dev.kavrin.core.chunk.Chunks;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * How file B differs from file A where nobody can look inside: which of its bytes A holds too,
 * wherever they stand there.
 *
 * @param shared bytes of B that A holds too
 * @param differing stretches of B that A does not hold, in order, neighbours joined
 */
public record ByteChange(long sizeA, long sizeB, long shared, List<Stretch> differing) {
  private static final int MOST_CHUNKS = 500_000;
  private static final int MOST_STRETCHES = 400;

  /** Beyond that share it is likely that bytes were put in or taken out. */
  private static final double MOST_IN_PLACE = 0.25;

  private static final int USUAL = 1 << 10;
  private static final Hasher64 HASHER = Hashing.xxh3_64();

  /**
   * @param from first byte
   * @param to behind the last
   */
  public record Stretch(long from, long to) {}

  /**
   * Reads both to the end, in memory that does not grow beyond a few megabytes. What stands at the
   * same place, counted from the beginning or from the end, is held against each other as it is;
   * only the rest is looked for elsewhere.
   */
  public static ByteChange of(SeekableByteChannel a, SeekableByteChannel b) throws IOException {
    SideBySide both = new SideBySide(a, b);
    if (a.size() == b.size()) {
      List<Stretch> differing = both.differing(MOST_STRETCHES);
      long bytes = differing.stream().mapToLong(s -> s.to() - s.from()).sum();
      if (bytes <= a.size() * MOST_IN_PLACE) {
        return new ByteChange(a.size(), b.size(), b.size() - bytes, differing);
      }
    }
    long head = both.sameFromTheBeginning();
    long tail = both.sameFromTheEnd(Math.min(a.size(), b.size()) - head);
    return between(a, b, head, tail);
  }

  /** Looks for the pieces of B behind {@code head} and before {@code tail} among those of A. */
  private static ByteChange between(
      SeekableByteChannel a, SeekableByteChannel b, long head, long tail) throws IOException {
    int scale = 0;
    while (Math.max(a.size(), b.size()) / ((long) USUAL << scale) > MOST_CHUNKS) {
      scale++;
    }
    int size = scale;
    AtOnce.Both<Pieces> both =
        AtOnce.of(
            () -> Pieces.of(Bytes.between(a, head, a.size() - tail), size),
            () -> Pieces.of(Bytes.between(b, head, b.size() - tail), size));
    long[] known = both.a().sorted();
    List<Stretch> differing = new ArrayList<>();
    long at = head;
    long shared = head + tail;
    for (int i = 0; i < both.b().count(); i++) {
      int length = both.b().length(i);
      if (Arrays.binarySearch(known, both.b().hash(i)) >= 0) {
        shared += length;
      } else {
        add(differing, at, at + length);
      }
      at += length;
    }
    return new ByteChange(a.size(), b.size(), shared, List.copyOf(differing));
  }

  /** What a stretch of bytes is cut into by its content. */
  private static final class Pieces {
    private long[] hashes = new long[1 << 12];
    private int[] lengths = new int[1 << 12];
    private int count;

    static Pieces of(InputStream in, int scale) throws IOException {
      Pieces pieces = new Pieces();
      Chunks.cut(in, scale, pieces::add);
      return pieces;
    }

    private void add(byte[] bytes, int offset, int length) {
      if (count == hashes.length) {
        hashes = Arrays.copyOf(hashes, 2 * count);
        lengths = Arrays.copyOf(lengths, 2 * count);
      }
      hashes[count] = HASHER.hashBytesToLong(bytes, offset, length);
      lengths[count++] = length;
    }

    int count() {
      return count;
    }

    long hash(int i) {
      return hashes[i];
    }

    int length(int i) {
      return lengths[i];
    }

    long[] sorted() {
      long[] all = Arrays.copyOf(hashes, count);
      Arrays.sort(all);
      return all;
    }
  }

  private static void add(List<Stretch> stretches, long from, long to) {
    Stretch last = stretches.isEmpty() ? null : stretches.get(stretches.size() - 1);
    if (last != null && (last.to() == from || stretches.size() >= MOST_STRETCHES)) {
      stretches.set(stretches.size() - 1, new Stretch(last.from(), to));
    } else {
      stretches.add(new Stretch(from, to));
    }
  }

  /** True if B is A with something behind it, or A cut short. */
  public boolean onlyItsEnd() {
    return differing.isEmpty()
        || differing.size() == 1 && differing.get(0).to() == sizeB && shared > 0;
  }

  /** "86 % of B stands in A too; it differs in 3 byte ranges; 1.2 kB larger." */
  public String sentence() {
    if (differing.isEmpty() && sizeA == sizeB) {
      return "No byte differs.";
    }
    long more = sizeB - sizeA;
    return Words.percent(sizeB == 0 ? 0 : (double) shared / sizeB)
        + " of B stands in A too; "
        + (differing.isEmpty()
            ? "the rest of A is missing"
            : onlyItsEnd()
                ? "only its end differs"
                : "it differs in " + Words.count(differing.size(), "byte range"))
        + (more == 0
            ? "."
            : ", " + Sizes.words(Math.abs(more)) + (more > 0 ? " larger." : " smaller."));
  }
}
