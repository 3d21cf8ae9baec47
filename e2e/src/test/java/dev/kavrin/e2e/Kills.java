package dev.kavrin.e2e;

/** How often the server is killed: in a quick run, in a full one, in a long one. */
final class Kills {
  private Kills() {}

  static int of(int quick, int full, int longest) {
    if (Boolean.getBoolean("kavrin.long")) {
      return longest;
    }
    return Boolean.getBoolean("kavrin.full") ? full : quick;
  }
}
