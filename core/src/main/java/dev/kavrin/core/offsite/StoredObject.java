package dev.kavrin.core.offsite;

import jakarta.annotation.Nullable;

/**
 * An object as a store tells of it.
 *
 * @param length bytes
 * @param sha256 what its sender said of its bytes, lower-case hexadecimal; null if nobody did
 */
public record StoredObject(String name, long length, @Nullable String sha256) {
  /** True if it is what such a body would be, as far as the store tells. */
  public boolean isAs(Body body) {
    return length == body.length() && (sha256 == null || sha256.equals(body.sha256()));
  }
}
