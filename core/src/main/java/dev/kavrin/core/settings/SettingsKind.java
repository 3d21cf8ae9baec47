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
  SINGLE,
  /** A registry as exported to text; only read. */
  REGISTRY,
  /** A property list as XML; only read. */
  PROPERTY_LIST,
  /** An SQLite database of keys and values; only read. */
  SQLITE;

  /** True if nothing is ever written there: the values are set in the program itself. */
  public boolean isReadOnly() {
    return this == REGISTRY || this == PROPERTY_LIST || this == SQLITE;
  }

  /** The kind that files of such a name usually are; empty if the ending tells none. */
  public static Optional<SettingsKind> of(String fileName) {
    return switch (FileName.of(fileName).lowerExt()) {
      case "ini", "cfg", "conf" -> Optional.of(INI);
      case "properties" -> Optional.of(PROPERTIES);
      case "json" -> Optional.of(JSON);
      case "yaml", "yml" -> Optional.of(YAML);
      case "xml" -> Optional.of(XML);
      case "reg" -> Optional.of(REGISTRY);
      case "plist" -> Optional.of(PROPERTY_LIST);
      case "sqlite", "sqlite3", "db" -> Optional.of(SQLITE);
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
      case REGISTRY -> new RegistrySyntax();
      case PROPERTY_LIST -> new PropertyListSyntax();
      case SQLITE -> new TableSyntax();
    };
  }
}
