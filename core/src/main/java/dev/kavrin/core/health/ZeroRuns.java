package dev.kavrin.core.health;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Format;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Stretches of nothing in a file: its end zeroed, or a hole inside. */
final class ZeroRuns {
  static final String HOLE = "zero-run";
  private static final int BLOCK = 1 << 16;

  private ZeroRuns() {}

  /**
   * @param from first zero
   * @param length how many follow each other
   */
  private record Run(long from, long length) {}

  /** The longest run, and the one that reaches the end. */
  private record Runs(Run longest, Run last) {
    static Runs between(SeekableByteChannel in, long from, long to) throws IOException {
      Run longest = new Run(from, 0);
      long at = from;
      long run = 0;
      byte[] block = new byte[BLOCK];
      try (InputStream bytes = Bytes.between(in, from, to)) {
        for (int n = bytes.read(block); n >= 0; n = bytes.read(block)) {
          for (int i = 0; i < n; i++) {
            if (block[i] == 0) {
              run++;
            } else {
              longest = run > longest.length() ? new Run(at + i - run, run) : longest;
              run = 0;
            }
          }
          at += n;
        }
      }
      Run last = new Run(at - run, run);
      return new Runs(run > longest.length() ? last : longest, last);
    }
  }

  /** A quarter of the file, a block of a drive at least (common practice, no source: 512 bytes). */
  private static boolean isLong(long run, long size) {
    return run >= 512 && run * 4 >= size;
  }

  /** The longest run where none should be, if it is longer than any in a whole file. */
  static Optional<Finding> among(SeekableByteChannel in, List<Format.Dense> dense)
      throws IOException {
    Run longest = new Run(0, 0);
    for (Format.Dense stretch : dense) {
      Run run = Runs.between(in, stretch.from(), stretch.to()).longest();
      longest = run.length() > stretch.usual() && run.length() > longest.length() ? run : longest;
    }
    return longest.length() == 0 ? Optional.empty() : Optional.of(missing(longest, in.size()));
  }

  private static Finding missing(Run run, long size) {
    return Finding.doubtful(
        HOLE,
        run.from(),
        Words.count(run.length(), "zero byte")
            + " from "
            + Words.percent((double) run.from() / size)
            + " of the file, where its shapes should be.");
  }

  private static Finding tail(long run, long size) {
    return Finding.doubtful("zero-tail", size - run, "Its last " + run + " bytes are all zero.");
  }

  private static Finding hole(Run run) {
    return new Finding(
        HOLE,
        Finding.Severity.NOTE,
        run.from(),
        "There is nothing but zeros for "
            + Sizes.words(run.length())
            + " from byte "
            + run.from()
            + ".",
        "Compare it with the copy before it.");
  }

  /** A zeroed end is doubtful; a hole inside is only noted, since some kinds have them always. */
  static List<Finding> in(SeekableByteChannel in) throws IOException {
    long size = in.size();
    if (size == 0) {
      return List.of(Finding.doubtful("empty", 0, "The file is empty: 0 bytes."));
    }
    List<Finding> findings = new ArrayList<>();
    Runs runs = Runs.between(in, 0, size);
    boolean nothing = runs.last().length() == size;
    if (nothing || runs.last().length() >= BLOCK || isLong(runs.last().length(), size)) {
      findings.add(tail(runs.last().length(), size));
    }
    if (runs.longest().length() >= BLOCK && !runs.longest().equals(runs.last())) {
      findings.add(hole(runs.longest()));
    }
    findings.sort(Comparator.comparing(Finding::severity).reversed());
    return findings;
  }
}
