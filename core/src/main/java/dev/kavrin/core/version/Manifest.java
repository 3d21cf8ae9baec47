package dev.kavrin.core.version;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import java.util.Comparator;
import java.util.List;

/** What a state consists of; its digest names the state. */
public record Manifest(List<Entry> entries) {
  /**
   * @param role "main" for a plain file
   * @param path relative, empty for a plain file, so that a copy's odd name does not matter
   */
  public record Entry(String role, String path, ContentId content) {}

  public static Manifest ofFile(ContentId content) {
    return new Manifest(List.of(new Entry("main", "", content)));
  }

  /** 32 hexadecimal digits over the entries in a fixed order. */
  public String digest() {
    StringBuilder text = new StringBuilder();
    entries.stream()
        .sorted(Comparator.comparing(Entry::role).thenComparing(Entry::path))
        .forEach(
            e ->
                text.append(e.role())
                    .append('\0')
                    .append(e.path())
                    .append('\0')
                    .append(e.content())
                    .append('\n'));
    return ContentHash.of(text.toString()).digest();
  }
}
