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
 * @param precision the smallest length its numbers tell apart, or null without lengths
 */
public record Inventory(
    String format,
    List<Part> parts,
    List<Link> links,
    @Nullable Long step,
    @Nullable Instant saved,
    @Nullable Double precision) {
  public static final Inventory OPAQUE = of("opaque", List.of(), List.of());

  /** Of a kind that knows no steps and no lengths. */
  public static Inventory of(String format, List<Part> parts, List<Link> links) {
    return ofStep(format, parts, links, null);
  }

  /** Of a kind that holds a step of a run. */
  public static Inventory ofStep(
      String format, List<Part> parts, List<Link> links, @Nullable Long step) {
    return new Inventory(format, parts, links, step, null, null);
  }

  /** The same, saved at a moment that stands inside the file. */
  public Inventory saved(@Nullable Instant moment) {
    return new Inventory(format, parts, links, step, moment, precision);
  }

  /** The same, with numbers so fine. */
  public Inventory precise(@Nullable Double length) {
    return new Inventory(format, parts, links, step, saved, length);
  }

  /** What a person would count in it. */
  public List<Part> counted() {
    return parts.stream().filter(Part::isCounted).toList();
  }
}
