package dev.kavrin.core.content;

/**
 * Another file this one leans on, as written in it. Never fetched from outside.
 *
 * @param uri raw text
 * @param kind "picture" or "data"
 */
public record Link(String uri, String kind) {
  /** True for a relative or absolute path, false for {@code data:}, {@code https:} and the like. */
  public boolean namesFile() {
    return !uri.matches("(?s)[A-Za-z][A-Za-z0-9+.-]*:.*");
  }
}
