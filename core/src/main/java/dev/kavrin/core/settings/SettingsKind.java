package dev.kavrin.core.settings;

import dev.kavrin.core.naming.FileName;
import java.util.Optional;

/** How a program writes its settings down. */
public enum SettingsKind {
  /** Sections in brackets, {@code key = value}. */
  INI,
  /** As Java writes them: {@code key=value} or {@code key: value}, backslash escapes. */
  PROPERTIES,
  /** RFC 8259; comments are allowed. */
  JSON,
  /** YAML 1.2. */
  YAML,
  /** XML 1.0 without a document type. */
  XML,
  /** A key and a value a line, apart by a separator of its own. */
  LINES,
  /** The whole file is one value. */
  SINGLE;

  /** The kind that files of such a name usually are; empty if the ending tells none. */
  public static Optional<SettingsKind> of(String fileName) {
    return switch (FileName.of(fileName).lowerExt()) {
      case "ini", "cfg", "conf" -> Optional.of(INI);
      case "properties" -> Optional.of(PROPERTIES);
      case "json" -> Optional.of(JSON);
      case "yaml", "yml" -> Optional.of(YAML);
      case "xml" -> Optional.of(XML);
      default -> Optional.empty();
    };
  }

  Syntax syntax(String separator) {
    return switch (this) {
      case INI -> new LineSyntax("=", true, false);
      case PROPERTIES -> new LineSyntax("=", false, true);
      case JSON -> new JsonSyntax();
      case YAML -> new YamlSyntax();
      case XML -> new XmlSyntax();
      case LINES -> new LineSyntax(separator.isEmpty() ? "=" : separator, false, false);
      case SINGLE -> new SingleSyntax();
    };
  }
}
