package dev.kavrin.core.version;

import dev.kavrin.core.units.Span;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * One thing that tells when the work in a state was done.
 *
 * @param raw what was read, as text
 */
public record Evidence(Kind kind, Span span, String raw) {
  /** Strongest first. */
  public enum Kind {
    SEEN_AS_NEW("Kavrin, which saw it as new"),
    TIME_INSIDE("the time inside it"),
    FAMILY("its number"),
    TIME_IN_NAME("its name"),
    MODIFIED("the file system");

    private final String words;

    Kind(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  /** The strongest; among equals the earliest, since a copy can only be later than the work. */
  public static Optional<Evidence> strongest(List<Evidence> all) {
    return all.stream().min(Comparator.comparing(Evidence::kind).thenComparing(e -> e.span().lo()));
  }
}
