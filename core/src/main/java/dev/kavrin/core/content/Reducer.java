package dev.kavrin.core.content;

import dev.kavrin.core.units.Sizes;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;

/** Writes a file again with its heavy attachments left out; what is written stays a whole file. */
public interface Reducer {
  int MOST_NAMED = 20;

  /** True if it can make files with that ending lighter (lower case, no dot). */
  boolean takes(String ext);

  /**
   * Something that would be left out.
   *
   * @param bytes it takes in the file
   */
  record Left(String what, long bytes) {
    String words() {
      return what + ", " + Sizes.words(bytes);
    }
  }

  /** What would be left out, in the order of the file. */
  List<Left> left(SeekableByteChannel in) throws IOException;

  /**
   * The same in words with sizes, the first {@value #MOST_NAMED}; empty if the file is as light as
   * it can be.
   */
  default List<String> leavesOut(SeekableByteChannel in) throws IOException {
    List<Left> left = left(in);
    List<String> words = new ArrayList<>(left.stream().limit(MOST_NAMED).map(Left::words).toList());
    if (left.size() > MOST_NAMED) {
      words.add(left.size() - MOST_NAMED + " more");
    }
    return words;
  }

  /**
   * Writes the lighter file; neither stream is closed.
   *
   * @throws IOException also if the file is no whole one of its kind
   */
  void write(SeekableByteChannel in, OutputStream out) throws IOException;
}
