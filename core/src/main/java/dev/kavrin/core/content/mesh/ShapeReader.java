package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.SiblingFiles;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;

/** Reads a format whose parts have shapes. */
public interface ShapeReader extends ContentReader {
  /**
   * Shapes of what can be read, empty for a file too large to hold.
   *
   * @param in stays the caller's; read from as long as shapes are asked for
   * @param beside what lies beside the file
   */
  Shapes shapes(SeekableByteChannel in, SiblingFiles beside) throws IOException;
}
