package dev.kavrin.core.content;

import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.Optional;

/** Files that lie beside the one that is read. */
@FunctionalInterface
public interface SiblingFiles {
  /** Nothing lies beside it. */
  SiblingFiles NOTHING = path -> Optional.empty();

  /**
   * Opens a file for reading; the caller closes it.
   *
   * @param path relative, as the file that is read names it
   * @return empty if it is not there, or not in the same folder or below
   */
  Optional<SeekableByteChannel> open(String path) throws IOException;
}
