package dev.kavrin.core.content;

import java.net.URI;
import java.util.Optional;

/**
 * Another file this one leans on, as written in it. Never fetched from outside.
 *
 * @param uri raw text
 * @param kind "picture", "material", "reference" or "data"
 */
public record Link(String uri, String kind) {
  private static final String FILE = "file:";

  /** True for a relative or absolute path, false for {@code data:}, {@code https:} and the like. */
  public boolean namesFile() {
    return uri.startsWith(FILE) || !uri.matches("(?s)[A-Za-z][A-Za-z0-9+.-]+:.*");
  }

  /** True if it begins at a root or a drive letter instead of the file's own folder. */
  public boolean isAbsolute() {
    return uri.startsWith(FILE) || uri.startsWith("/") || uri.matches("(?s)[A-Za-z]:.*");
  }

  /** The path it names, with forward slashes; empty for what names no file. */
  public Optional<String> path() {
    if (!namesFile()) {
      return Optional.empty();
    }
    try {
      boolean escaped = uri.startsWith(FILE) || uri.contains("%");
      return Optional.ofNullable(escaped ? URI.create(uri).getPath() : uri.replace('\\', '/'));
    } catch (IllegalArgumentException unreadable) {
      return Optional.of(uri);
    }
  }
}
