package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.content.mesh.Shapes;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A small GLB to look at: the readable parts in world space, one node each named by its part id, no
 * materials, no outside links.
 */
public final class GlbPreview {
  private GlbPreview() {}

  /**
   * @param mostTriangles the budget; above it vertices are gathered on a grid
   * @return the file; its {@code asset.extras.error} is the largest shift of a vertex in metres
   */
  public static byte[] of(Shapes shapes, int mostTriangles) throws IOException {
    List<String> names = new ArrayList<>();
    List<MeshData> meshes = new ArrayList<>();
    long triangles = 0;
    for (String part : shapes.parts()) {
      MeshData mesh = shapes.shape(part);
      if (mesh != null && mesh.triangles() > 0 && mesh.allFinite()) {
        names.add(part);
        meshes.add(mesh);
        triangles += mesh.triangles();
      }
    }
    double cell = 0;
    List<MeshData> shown = meshes;
    for (double tried = startingCell(meshes); triangles > mostTriangles; tried *= 1.5) {
      double size = tried;
      shown = meshes.stream().map(m -> gathered(m, size)).toList();
      triangles = shown.stream().mapToLong(MeshData::triangles).sum();
      cell = size;
    }
    GlbWriter writer = new GlbWriter();
    for (int i = 0; i < shown.size(); i++) {
      if (shown.get(i).triangles() > 0) {
        writer.mesh(names.get(i), -1, shown.get(i), null, null, -1);
      }
    }
    return writer.bytes(Map.of("error", cell * Math.sqrt(3) / 2));
  }

  private static double startingCell(List<MeshData> meshes) {
    return meshes.stream().mapToDouble(m -> m.box().diagonal()).max().orElse(1) / 2000;
  }

  private static MeshData gathered(MeshData mesh, double cell) {
    Map<List<Long>, Integer> cells = new HashMap<>();
    int[] target = new int[mesh.vertices()];
    List<float[]> kept = new ArrayList<>();
    for (int v = 0; v < mesh.vertices(); v++) {
      long[] key = new long[3];
      float[] centre = new float[3];
      for (int k = 0; k < 3; k++) {
        key[k] = (long) Math.floor(mesh.points()[v * 3 + k] / cell);
        centre[k] = (float) ((key[k] + 0.5) * cell);
      }
      target[v] =
          cells.computeIfAbsent(
              List.of(key[0], key[1], key[2]),
              k -> {
                kept.add(centre);
                return kept.size() - 1;
              });
    }
    List<Integer> corners = new ArrayList<>();
    for (int t = 0; t < mesh.corners().length; t += 3) {
      int a = target[mesh.corners()[t]];
      int b = target[mesh.corners()[t + 1]];
      int c = target[mesh.corners()[t + 2]];
      if (a != b && b != c && a != c) {
        corners.addAll(List.of(a, b, c));
      }
    }
    float[] points = new float[kept.size() * 3];
    for (int i = 0; i < kept.size(); i++) {
      System.arraycopy(kept.get(i), 0, points, i * 3, 3);
    }
    return new MeshData(points, corners.stream().mapToInt(Integer::intValue).toArray());
  }
}
