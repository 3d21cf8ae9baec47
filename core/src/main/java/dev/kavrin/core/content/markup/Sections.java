package dev.kavrin.core.content.markup;

import jakarta.annotation.Nullable;
import java.util.function.UnaryOperator;

/** Which elements of a document are parts of their own, and what they are called. */
enum Sections {
  /** Groups, and whatever else has an id. */
  SVG("shape", "svg") {
    @Override
    boolean isPart(String element, UnaryOperator<String> attribute) {
      return element.equals("g") || attribute.apply("id") != null;
    }

    @Override
    String label(String element, UnaryOperator<String> attribute) {
      return first(attribute.apply("label"), attribute.apply("id"), element);
    }
  },
  /** What has an id or a name. */
  XML("section", "xml", "dae", "x3d", "gpx", "kml", "pvd", "pvtu", "pvti", "pvtp", "pvts", "pvtr") {
    @Override
    boolean isPart(String element, UnaryOperator<String> attribute) {
      return attribute.apply("id") != null || attribute.apply("name") != null;
    }

    @Override
    String label(String element, UnaryOperator<String> attribute) {
      return first(attribute.apply("id"), attribute.apply("name"), element);
    }
  };

  private final String kind;
  private final java.util.List<String> endings;

  Sections(String kind, String... endings) {
    this.kind = kind;
    this.endings = java.util.List.of(endings);
  }

  /** What such a part is. */
  String kind() {
    return kind;
  }

  boolean reads(String ext) {
    return endings.contains(ext);
  }

  /**
   * @param attribute values of attributes by their local names, null where there is none
   */
  abstract boolean isPart(String element, UnaryOperator<String> attribute);

  abstract String label(String element, UnaryOperator<String> attribute);

  private static String first(@Nullable String a, @Nullable String b, String otherwise) {
    return a != null ? a.strip() : b != null ? b.strip() : otherwise;
  }
}
