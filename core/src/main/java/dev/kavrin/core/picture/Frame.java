package dev.kavrin.core.picture;

import jakarta.annotation.Nullable;

/**
 * How large a picture is and what stands out in it.
 *
 * @param width in pixels
 * @param lit id of the one part that is shown in full, the others faint; null for all alike
 */
public record Frame(int width, int height, @Nullable String lit) {
  /** Beside a text. */
  public static final Frame SMALL = new Frame(320, 200, null);

  /** To look at. */
  public static final Frame LARGE = new Frame(1280, 800, null);

  /** The same with one part standing out. */
  public Frame lighting(@Nullable String part) {
    return new Frame(width, height, part);
  }

  boolean isFaint(String part) {
    return lit != null && !lit.equals(part);
  }
}
