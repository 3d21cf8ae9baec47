package dev.kavrin.core.compare;

import dev.kavrin.core.compare.ByteChange.Stretch;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/** Two files held against each other byte by byte, in blocks small enough for the processor. */
final class SideBySide {
  private static final int BLOCK = 1 << 16;

  /** Differences nearer to each other than that are told as one. */
  private static final int NEAR = 64;

  private final SeekableByteChannel a;
  private final SeekableByteChannel b;
  private final ByteBuffer blockA = ByteBuffer.allocateDirect(BLOCK);
  private final ByteBuffer blockB = ByteBuffer.allocateDirect(BLOCK);

  SideBySide(SeekableByteChannel a, SeekableByteChannel b) {
    this.a = a;
    this.b = b;
  }

  /** Fills both blocks; as many bytes as both have from there, at most so many. */
  private int read(long fromA, long fromB, long most) throws IOException {
    int wanted = (int) Math.min(BLOCK, most);
    int both = Math.min(fill(a, fromA, blockA, wanted), fill(b, fromB, blockB, wanted));
    blockA.limit(both);
    blockB.limit(both);
    return both;
  }

  private static int fill(SeekableByteChannel in, long from, ByteBuffer block, int wanted)
      throws IOException {
    block.clear().limit(wanted);
    if (in instanceof FileChannel file) {
      while (block.hasRemaining() && file.read(block, from + block.position()) >= 0) {}
    } else {
      in.position(from);
      while (block.hasRemaining() && in.read(block) >= 0) {}
    }
    block.flip();
    return block.limit();
  }

  /** How many bytes are the same from the beginning on. */
  long sameFromTheBeginning() throws IOException {
    long end = Math.min(a.size(), b.size());
    for (long at = 0; at < end; ) {
      int both = read(at, at, end - at);
      int differs = blockA.mismatch(blockB);
      if (differs >= 0 || both == 0) {
        return at + Math.max(0, differs);
      }
      at += both;
    }
    return end;
  }

  /** How many bytes are the same up to the end, at most so many. */
  long sameFromTheEnd(long most) throws IOException {
    for (long done = 0; done < most; ) {
      int next = (int) Math.min(BLOCK, most - done);
      int both = read(a.size() - done - next, b.size() - done - next, next);
      if (both < next || blockA.mismatch(blockB) >= 0) {
        int same = 0;
        while (same < both && blockA.get(both - 1 - same) == blockB.get(both - 1 - same)) {
          same++;
        }
        return done + same;
      }
      done += next;
    }
    return most;
  }

  /** Where they differ at the same place; the last stretch takes in what is beyond the number. */
  List<Stretch> differing(int stretches) throws IOException {
    long end = Math.min(a.size(), b.size());
    boolean together = a instanceof FileChannel && b instanceof FileChannel && end > 64 * BLOCK;
    int pieces = together ? Math.min(4, Runtime.getRuntime().availableProcessors()) : 1;
    List<Stretch> found = new ArrayList<>();
    try {
      IntStream.range(0, pieces)
          .parallel()
          .mapToObj(
              i -> {
                SideBySide own = pieces == 1 ? this : new SideBySide(a, b);
                return own.differing(end * i / pieces, end * (i + 1) / pieces, stretches);
              })
          .toList()
          .forEach(part -> part.forEach(s -> add(found, s.from(), s.to(), stretches)));
    } catch (UncheckedIOException failed) {
      throw failed.getCause();
    }
    return found;
  }

  private List<Stretch> differing(long start, long end, int stretches) {
    List<Stretch> found = new ArrayList<>();
    try {
      for (long at = start; at < end; ) {
        int both = read(at, at, end - at);
        for (int i = 0; i < both; ) {
          int differs = blockA.slice(i, both - i).mismatch(blockB.slice(i, both - i));
          if (differs < 0) {
            break;
          }
          int from = i + differs;
          i = from;
          while (i < both && blockA.get(i) != blockB.get(i)) {
            i++;
          }
          add(found, at + from, at + i, stretches);
        }
        at += Math.max(1, both);
      }
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
    return found;
  }

  private static void add(List<Stretch> found, long from, long to, int most) {
    Stretch last = found.isEmpty() ? null : found.get(found.size() - 1);
    if (last != null && (from - last.to() < NEAR || found.size() >= most)) {
      found.set(found.size() - 1, new Stretch(last.from(), to));
    } else {
      found.add(new Stretch(from, to));
    }
  }
}
