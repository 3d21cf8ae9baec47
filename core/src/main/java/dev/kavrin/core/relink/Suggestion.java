package dev.kavrin.core.relink;

import java.nio.file.Path;

/**
 * A file that may serve for one that is lost.
 *
 * @param score 0 to 1, for the order
 * @param told how it differs from what was lost, in words; empty if it is the same
 */
public record Suggestion(Path file, Why why, double score, String told) {
  /** What speaks for it. */
  public enum Why {
    SAME_CONTENT("the same content"),
    SAME_NAME("the same name"),
    LOOKS_ALIKE("looks alike"),
    NAME_ALIKE("a name like it"),
    HELD("the copy Kavrin holds of it");

    private final String words;

    Why(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }
}
