package dev.kavrin.core.content;

import java.util.List;
import java.util.Optional;

/**
 * Something noticed in a file.
 *
 * @param code stable, kebab-case
 * @param offset byte where it shows, −1 if nowhere in particular
 * @param words for people
 * @param remedy what to do about it
 */
public record Finding(String code, Severity severity, long offset, String words, String remedy) {
  /** Code of what says that more was not looked at: such a file is never called intact. */
  public static final String HEAD_ONLY = "header-only";

  /** How much it weighs. */
  public enum Severity {
    NOTE,
    DOUBTFUL,
    DAMAGED
  }

  public static Finding damaged(String code, long offset, String words) {
    return new Finding(code, Severity.DAMAGED, offset, words, "Take another copy.");
  }

  public static Finding doubtful(String code, long offset, String words) {
    return new Finding(
        code, Severity.DOUBTFUL, offset, words, "Compare it with the copy before it.");
  }

  /** The one that weighs most; among equals the first, which says most. */
  public static Optional<Finding> heaviest(List<Finding> all) {
    return all.stream().reduce((a, b) -> b.severity().compareTo(a.severity()) > 0 ? b : a);
  }
}
