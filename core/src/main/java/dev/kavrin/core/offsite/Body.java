package dev.kavrin.core.offsite;

import dev.kavrin.core.chunk.Sha256;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;

/**
 * Bytes to be sent, readable again from anywhere in them.
 *
 * @param length bytes
 * @param sha256 of them, lower-case hexadecimal
 */
public record Body(long length, String sha256, Opening opening) {
  /** Opens the bytes; the caller closes. */
  @FunctionalInterface
  public interface Opening {
    InputStream from(long offset) throws IOException;
  }

  public static Body of(byte[] bytes) {
    return new Body(
        bytes.length,
        Sha256.of(bytes),
        offset -> new ByteArrayInputStream(bytes, (int) offset, bytes.length - (int) offset));
  }

  /** Opens from a byte on; the caller closes. */
  public InputStream from(long offset) throws IOException {
    return opening.from(offset);
  }
}
