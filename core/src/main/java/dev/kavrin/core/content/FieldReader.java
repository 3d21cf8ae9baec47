package dev.kavrin.core.content;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.Optional;

/** Reads a format of fields. */
public interface FieldReader extends ContentReader {
  /** Of the largest field that has two dimensions, at most a million numbers of it. */
  Optional<Slice> slice(SeekableByteChannel in) throws IOException;

  /**
   * @param in read from as long as fields are asked for
   */
  Fields fields(SeekableByteChannel in);
}
