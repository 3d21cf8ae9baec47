package dev.kavrin.core.naming;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Where files lie below a folder: names of folders with slashes between, each of which may have
 * holes like a {@link NamePattern}. Empty for the folder itself.
 */
public final class PathPattern {
  private final List<Segment> segments = new ArrayList<>();

  /** One folder's name: as it is, or with holes. */
  private record Segment(String text, Optional<NamePattern> holes) {
    Optional<NameFields> parse(String name) {
      return holes.isPresent()
          ? holes.get().parse(name)
          : Optional.of(NameFields.of("", "")).filter(same -> text.equals(name));
    }
  }

  private PathPattern(String text) {
    for (String name : text.isEmpty() ? new String[0] : text.split("/")) {
      segments.add(
          new Segment(
              name, name.contains("{") ? Optional.of(NamePattern.of(name)) : Optional.empty()));
    }
  }

  /**
   * @throws IllegalArgumentException a name has a hole that is none
   */
  public static PathPattern of(String text) {
    return new PathPattern(text);
  }

  /** How many folders down. */
  public int depth() {
    return segments.size();
  }

  /** True if several folders fit it that tell the same stem, time and step. */
  public boolean tellsParts() {
    return segments.stream().flatMap(s -> s.holes().stream()).anyMatch(NamePattern::tellsParts);
  }

  /** True if a folder so many folders down may be called so. */
  public boolean fits(int depth, String name) {
    return segments.get(depth).parse(name).isPresent();
  }

  /** The name if there are no holes at that depth. */
  public Optional<String> name(int depth) {
    Segment segment = segments.get(depth);
    return segment.holes().isPresent() ? Optional.empty() : Optional.of(segment.text());
  }

  /**
   * What the names of folders tell, the first that tells a thing before the others.
   *
   * @param relative with slashes
   */
  public Optional<NameFields> parse(String relative) {
    String[] names = relative.isEmpty() ? new String[0] : relative.split("/");
    if (names.length != segments.size()) {
      return Optional.empty();
    }
    NameFields all = NameFields.of("", "");
    for (int i = 0; i < names.length; i++) {
      Optional<NameFields> fields = segments.get(i).parse(names[i]);
      if (fields.isEmpty()) {
        return Optional.empty();
      }
      all = all.or(fields.get());
    }
    return Optional.of(all);
  }
}
