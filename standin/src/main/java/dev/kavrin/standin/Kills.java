package dev.kavrin.standin;

/** How often tests kill what they test: in a quick run, in a full one, in a long one. */
public final class Kills {
  private Kills() {}

  public static int of(int quick, int full, int longest) {
    if (Boolean.getBoolean("kavrin.long")) {
      return longest;
    }
    return Boolean.getBoolean("kavrin.full") ? full : quick;
  }
}
