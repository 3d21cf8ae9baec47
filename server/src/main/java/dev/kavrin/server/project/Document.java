package dev.kavrin.server.project;

import dev.kavrin.core.content.Link;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.UUID;

/**
 * A document as other features see it.
 *
 * @param path relative to the project folder
 * @param live the whole path
 * @param linked true if it joined because another leans on it
 */
public record Document(
    long key, UUID id, UUID project, long workPlace, String path, Path live, boolean linked) {

  /** Where a name in it leads; empty for what names no file a path can be made of. */
  public Optional<Path> named(String uri) {
    try {
      return new Link(uri, "data").path().map(path -> live().resolveSibling(path).normalize());
    } catch (InvalidPathException unreadable) {
      return Optional.empty();
    }
  }
}
