package dev.kavrin.core.health;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.units.Sizes;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Stretches of nothing in a file of unknown kind: its end zeroed, or a hole inside. */
final class ZeroRuns {
  static final String HOLE = "zero-run";
  private static final int BLOCK = 1 << 16;

  private ZeroRuns() {}

  /** A quarter of the file, a block of a drive at least (common practice, no source: 512 bytes). */
  private static boolean isLong(long run, long size) {
    return run >= 512 && run * 4 >= size;
  }

  private static Finding tail(long run, long size) {
    return Finding.doubtful("zero-tail", size - run, "Its last " + run + " bytes are all zero.");
  }

  /** What there is of it in a file of numbers, whose format takes zeros for good ones. */
  static Optional<Finding> zeroedEnd(SeekableByteChannel in) throws IOException {
    long size = in.size();
    long run = Bytes.zerosAtEnd(in, size);
    return isLong(run, size) ? Optional.of(tail(run, size)) : Optional.empty();
  }

  private static Finding hole(long hole, long at) {
    return new Finding(
        HOLE,
        Finding.Severity.NOTE,
        at,
        "There is nothing but zeros for " + Sizes.words(hole) + " from byte " + at + ".",
        "Compare it with the copy before it.");
  }

  /** A zeroed end is doubtful; a hole inside is only noted, since some kinds have them always. */
  static List<Finding> in(SeekableByteChannel in) throws IOException {
    List<Finding> findings = new ArrayList<>();
    long size = in.size();
    if (size == 0) {
      findings.add(Finding.doubtful("empty", 0, "The file is empty: 0 bytes."));
      return findings;
    }
    long at = 0;
    long run = 0;
    long hole = 0;
    long holeAt = 0;
    byte[] block = new byte[BLOCK];
    InputStream bytes = Bytes.from(in, 0);
    for (int n = bytes.read(block); n >= 0; n = bytes.read(block)) {
      for (int i = 0; i < n; i++) {
        if (block[i] == 0) {
          run++;
        } else {
          if (run > hole) {
            hole = run;
            holeAt = at + i - run;
          }
          run = 0;
        }
      }
      at += n;
    }
    if (run == at || run >= BLOCK || isLong(run, at)) {
      findings.add(tail(run, at));
    }
    if (hole >= BLOCK) {
      findings.add(hole(hole, holeAt));
    }
    return findings;
  }
}
