package dev.kavrin.core.content;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.List;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * What can be done with a kind of file, in words.
 *
 * @param endings lower case, without the dot; none for the last, which is for all others
 * @param byPart true if single parts can be brought back
 * @param lacks what is not read, empty if nothing is
 */
public record Kind(
    String name,
    List<String> endings,
    String read,
    String measured,
    String shown,
    String judged,
    boolean byPart,
    String written,
    String lacks) {
  /** All there are, the one for anything else last. */
  public static List<Kind> all() {
    try (InputStream in = Kind.class.getResourceAsStream("kinds.json")) {
      return JsonMapper.shared().readValue(in, new TypeReference<List<Kind>>() {});
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
  }
}
