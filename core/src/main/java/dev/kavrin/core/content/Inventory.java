package dev.kavrin.core.content;

import java.util.List;

/**
 * What was found inside a file.
 *
 * @param format "glb", "gltf", "opaque" …
 * @param parts parents before children
 * @param links in the order of the file
 */
public record Inventory(String format, List<Part> parts, List<Link> links) {
  public static final Inventory OPAQUE = new Inventory("opaque", List.of(), List.of());

  /** Parts with geometry of their own that could be read. */
  public long readableMeshes() {
    return parts.stream().filter(p -> p.kind().equals("mesh") && p.readable()).count();
  }

  public long meshes() {
    return parts.stream().filter(p -> p.kind().equals("mesh")).count();
  }
}
