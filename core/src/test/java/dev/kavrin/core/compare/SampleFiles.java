package dev.kavrin.core.compare;

import dev.kavrin.core.content.gltf.Meshes;
import java.util.Map;

/** One whole file of each format that says what it draws. */
public final class SampleFiles {
  private SampleFiles() {}

  public static byte[] of(String ext) {
    return switch (ext) {
      case "glb" -> new EditedModel(1).glb();
      case "gltf" ->
          ModelFiles.gltf(
              "Wheel", Meshes.cube(2), ModelFiles.dataUri(ModelFiles.buffer(Meshes.cube(2))), "");
      case "obj" -> ModelFiles.obj(Map.of("Wheel", Meshes.sphere(2, 20)), 6);
      case "dxf" -> new EditedDrawing(1).dxf(false);
      default -> throw new IllegalArgumentException(ext);
    };
  }
}
