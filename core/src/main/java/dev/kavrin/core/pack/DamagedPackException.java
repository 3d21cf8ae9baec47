package dev.kavrin.core.pack;

import java.io.IOException;

/** A pack or a recipe is not what was written; nothing was given out of it. */
public final class DamagedPackException extends IOException {
  private static final long serialVersionUID = 1;

  public DamagedPackException(String words) {
    super(words);
  }
}
