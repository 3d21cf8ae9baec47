package dev.kavrin.core.health;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.units.Sizes;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;

/** Stretches of nothing in a file of unknown kind: its end zeroed, or a hole inside. */
final class ZeroRuns {
  static final String HOLE = "zero-run";
  private static final int BLOCK = 1 << 16;

  private ZeroRuns() {}

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
    if (run == at || run >= BLOCK) {
      findings.add(
          Finding.doubtful("zero-tail", at - run, "Its last " + run + " bytes are all zero."));
    }
    if (hole >= BLOCK) {
      findings.add(
          new Finding(
              HOLE,
              Finding.Severity.NOTE,
              holeAt,
              "There is nothing but zeros for " + Sizes.words(hole) + " from byte " + holeAt + ".",
              "Compare it with the copy before it."));
    }
    return findings;
  }
}
