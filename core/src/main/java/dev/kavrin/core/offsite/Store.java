package dev.kavrin.core.offsite;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;

/**
 * A place elsewhere for whole objects under names with slashes. It knows no rename and no append;
 * an object appears whole or not at all. Absent objects are a {@link
 * java.nio.file.NoSuchFileException}. Safe for several threads.
 */
public interface Store extends AutoCloseable {
  /** All objects whose names begin so, by name. */
  List<StoredObject> list(String begin) throws IOException;

  /** What stands right below a beginning that ends in a slash, or below all if it is empty. */
  List<String> folders(String begin) throws IOException;

  Optional<StoredObject> find(String name) throws IOException;

  /**
   * Sends an object; what was sent of it before a stop need not be sent again. What stands under
   * the name is left alone.
   */
  Arrival put(String name, Body body) throws IOException;

  /** Opens for reading; the caller closes. */
  InputStream get(String name) throws IOException;

  /**
   * Deletes an object; one that is absent is no failure.
   *
   * @throws RefusedException the store keeps it
   */
  void delete(String name) throws IOException;

  /**
   * How many objects are best sent or fetched at once; where each answer is waited for, several.
   */
  default int atOnce() {
    return 1;
  }

  @Override
  default void close() {}

  /** The store keeps what was to be deleted, such as a locked object. */
  final class RefusedException extends IOException {
    private static final long serialVersionUID = 1;

    public RefusedException(String words) {
      super(words);
    }
  }
}
