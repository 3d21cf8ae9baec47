package dev.kavrin.core.content;

import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;

/**
 * What was found inside a file.
 *
 * @param format "glb", "gltf", "opaque" …
 * @param parts parents before children
 * @param links in the order of the file
 * @param step solver step the file says it holds, or null
 * @param saved when it was saved, by what stands inside it, or null
 */
public record Inventory(
    String format,
    List<Part> parts,
    List<Link> links,
    @Nullable Long step,
    @Nullable Instant saved) {
  public static final Inventory OPAQUE = of("opaque", List.of(), List.of());

  /** Of a kind that knows no steps. */
  public static Inventory of(String format, List<Part> parts, List<Link> links) {
    return new Inventory(format, parts, links, null, null);
  }

  /** The same, saved at a moment that stands inside the file. */
  public Inventory saved(@Nullable Instant moment) {
    return new Inventory(format, parts, links, step, moment);
  }

  /** What a person would count in it. */
  public List<Part> counted() {
    return parts.stream().filter(Part::isCounted).toList();
  }
}
