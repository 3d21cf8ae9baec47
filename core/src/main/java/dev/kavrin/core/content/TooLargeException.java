package dev.kavrin.core.content;

import java.io.IOException;

/** A file holds something too large to be looked into; nothing is said of its health. */
public final class TooLargeException extends IOException {
  /**
   * @param what is too large, in words
   */
  public TooLargeException(String what) {
    super("Too large to check: " + what);
  }
}
