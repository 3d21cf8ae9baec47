package dev.kavrin.core.content.markup;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Where XML names other files. Sources: SVG 2, section 12.3; the VTK file formats; COLLADA 1.4.1
 * and 1.5 (ISO/PAS 17506), the element image and url of instances; X3D (ISO/IEC 19776-1), fields
 * named url; OGC KML 2.2, the element href.
 */
enum NamedFiles {
  /** The whole text is a path. */
  PATH("data") {
    @Override
    List<Span> in(String text) {
      return List.of(trimmed(text, 0, text.length()));
    }
  },

  /** A picture by its URI. */
  PICTURE("picture"),

  /** Another document by its URI. */
  DOCUMENT("reference");

  private static final Map<String, NamedFiles> ATTRIBUTES =
      Map.ofEntries(
          Map.entry("image@href", PICTURE),
          Map.entry("DataSet@file", PATH),
          Map.entry("Piece@Source", PATH),
          Map.entry("ImageTexture@url", PICTURE),
          Map.entry("MovieTexture@url", PICTURE),
          Map.entry("Inline@url", DOCUMENT),
          Map.entry("AudioClip@url", DOCUMENT),
          Map.entry("instance_geometry@url", DOCUMENT),
          Map.entry("instance_controller@url", DOCUMENT),
          Map.entry("instance_node@url", DOCUMENT));

  private static final Map<String, NamedFiles> TEXTS =
      Map.of(
          "image/init_from", PICTURE,
          "init_from/ref", PICTURE,
          "Icon/href", PICTURE,
          "Link/href", DOCUMENT);

  private static final Pattern QUOTED = Pattern.compile("(?s)(\"|&quot;)(.*?)\\1");

  private final String kind;

  NamedFiles(String kind) {
    this.kind = kind;
  }

  /** Kind of the link. */
  String kind() {
    return kind;
  }

  /** Whether an attribute names files. */
  static Optional<NamedFiles> inAttribute(String element, String attribute) {
    return Optional.ofNullable(ATTRIBUTES.get(element + "@" + attribute));
  }

  /** Whether the text of an element does. */
  static Optional<NamedFiles> inText(String above, String element) {
    return Optional.ofNullable(TEXTS.get(above + "/" + element));
  }

  /** From one letter up to another. */
  record Span(int from, int to) {
    String of(String text) {
      return text.substring(from, to);
    }

    boolean isEmpty() {
      return from == to;
    }
  }

  /**
   * The names in a text, escaped or not: one, or several in quotes; without what stands after a
   * number sign, for that is a place in the file.
   */
  List<Span> in(String text) {
    List<Span> spans = new ArrayList<>();
    Matcher quoted = QUOTED.matcher(text);
    while (quoted.find()) {
      spans.add(trimmed(text, quoted.start(2), quoted.end(2)));
    }
    Span whole = trimmed(text, 0, text.length());
    return (spans.isEmpty() ? List.of(whole) : spans)
        .stream()
            .map(s -> beforePlace(text, s))
            .filter(s -> !s.isEmpty() && !s.of(text).startsWith("data:"))
            .toList();
  }

  private static Span beforePlace(String text, Span span) {
    for (int at = span.from(); at < span.to(); at++) {
      boolean escape = text.charAt(at) == '#' && at > span.from() && text.charAt(at - 1) == '&';
      if (text.charAt(at) == '#' && !escape) {
        return new Span(span.from(), at);
      }
    }
    return span;
  }

  private static Span trimmed(String text, int from, int to) {
    int first = from;
    int last = to;
    while (first < last && Character.isWhitespace(text.charAt(first))) {
      first++;
    }
    while (last > first && Character.isWhitespace(text.charAt(last - 1))) {
      last--;
    }
    return new Span(first, last);
  }
}
