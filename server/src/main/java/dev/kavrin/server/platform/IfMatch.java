package dev.kavrin.server.platform;

/** The revision a person saw, as a request names it (RFC 9110, 13.1.1). */
public final class IfMatch {
  private IfMatch() {}

  /**
   * @throws ProblemException it names none
   */
  public static long revision(String header) {
    try {
      return Long.parseLong(header.strip().replaceFirst("^\"(.*)\"$", "$1"));
    } catch (NumberFormatException none) {
      throw ProblemException.badInput(
          "bad-revision",
          "If-Match has to be the number that was read with it, not '"
              + header
              + "'. Nothing was changed.");
    }
  }
}
