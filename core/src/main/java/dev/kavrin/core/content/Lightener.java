package dev.kavrin.core.content;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.List;

/** Writes a file again with its heavy attachments left out; what is written stays a whole file. */
public interface Lightener {
  /** True if it can make files with that ending lighter (lower case, no dot). */
  boolean takes(String ext);

  /** What would be left out, in words with sizes; empty if the file is as light as it can be. */
  List<String> leavesOut(SeekableByteChannel in) throws IOException;

  /**
   * Writes the lighter file; neither stream is closed.
   *
   * @throws IOException also if the file is no whole one of its kind
   */
  void write(SeekableByteChannel in, OutputStream out) throws IOException;
}
