package dev.kavrin.core.offsite;

import java.io.IOException;

/** Finds passphrases by the names of the files they lie in. */
@FunctionalInterface
public interface Passphrases {
  /**
   * @throws IOException there is none, or others may read it; says which
   */
  String of(String name) throws IOException;
}
