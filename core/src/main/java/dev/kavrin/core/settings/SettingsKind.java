package dev.kavrin.core.settings;

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
