package dev.kavrin.core.content;

import dev.kavrin.core.content.Finding.Severity;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.util.List;

/** Reads one format. Stateless; any thread may call. */
public interface ContentReader {
  /** True if this reader takes files with that ending (lower case, no dot). */
  boolean reads(String ext);

  /**
   * True if a file of an ending nobody knows begins like one of this format.
   *
   * @param head its first bytes, little-endian, up to 64 of them
   */
  default boolean recognises(ByteBuffer head) {
    return false;
  }

  /**
   * Reads to the end, in memory that does not grow with the file beyond its structure. Faults of
   * the file become findings, never exceptions.
   *
   * @param in positioned anywhere; stays open
   * @param beside what lies beside the file, for formats that spread over several
   * @throws IOException the device failed, not the format
   */
  Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException;

  /** Reads a file that stands alone. */
  default Reading read(SeekableByteChannel in) throws IOException {
    return read(in, SiblingFiles.NOTHING);
  }

  /**
   * @param findings in the order of offsets
   */
  record Reading(Inventory inventory, List<Finding> findings) {
    public boolean damaged() {
      return findings.stream().anyMatch(f -> f.severity() == Severity.DAMAGED);
    }

    public boolean doubtful() {
      return findings.stream().anyMatch(f -> f.severity() == Severity.DOUBTFUL);
    }
  }
}
