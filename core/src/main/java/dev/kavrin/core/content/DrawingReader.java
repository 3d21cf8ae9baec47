package dev.kavrin.core.content;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;

/** Reads a format of drawings. */
public interface DrawingReader extends ContentReader {
  /** All line work; none for a file too large to hold. */
  Lines lines(SeekableByteChannel in) throws IOException;
}
