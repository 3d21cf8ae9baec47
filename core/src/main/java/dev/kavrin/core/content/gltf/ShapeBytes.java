package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.Format;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.JsonNode;

/** Where the shapes of a document stand in its file. */
final class ShapeBytes {
  private static final List<String> OF_POINTS = List.of("POSITION", "NORMAL");

  private ShapeBytes() {}

  /** Points, normals (whose length is one, glTF 2.0, section 3.7.2.1) and corners. */
  static List<Format.Dense> of(GlbFile file) {
    List<Format.Dense> all = new ArrayList<>();
    for (JsonNode mesh : file.json().path("meshes")) {
      for (JsonNode primitive : mesh.path("primitives")) {
        file.accessors().stretch(primitive.path("indices").asInt(-1)).ifPresent(all::add);
        for (String attribute : OF_POINTS) {
          int accessor = primitive.path("attributes").path(attribute).asInt(-1);
          file.accessors().stretch(accessor).ifPresent(all::add);
        }
      }
    }
    return all;
  }
}
