package dev.kavrin.core.compare;

import dev.kavrin.core.content.gltf.Meshes;
import java.util.Arrays;
import java.util.Map;

/** One whole file of each format that says what it draws. */
public final class SampleFiles {
  private SampleFiles() {}

  /** Without a last line end, which may be cut off without harm. */
  public static byte[] of(String ext) {
    byte[] bytes = written(ext);
    boolean ended = bytes[bytes.length - 1] == '\n' && !ext.equals("obj");
    return ended ? Arrays.copyOf(bytes, bytes.length - 1) : bytes;
  }

  private static byte[] written(String ext) {
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
