package dev.kavrin.core.content;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;

/** Reads a format whose parts are made of many small things. */
public interface ItemReader extends ContentReader {
  /** All of them; none for a file too large to hold, or one that is damaged. */
  Items items(SeekableByteChannel in) throws IOException;
}
