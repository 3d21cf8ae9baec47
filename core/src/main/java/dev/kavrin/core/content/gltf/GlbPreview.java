package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.content.mesh.Shapes;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * A small GLB to look at: the readable parts in world space, one node each named by its part id, no
 * materials, no outside links.
 */
public final class GlbPreview {
  private GlbPreview() {}

  private static final int CELL_BITS = 21;
  private static final long CELLS = (1L << CELL_BITS) - 1;

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
    double tried = startingCell(meshes);
    while (triangles > mostTriangles) {
      double size = tried;
      shown = meshes.stream().map(m -> gathered(m, size)).toList();
      triangles = shown.stream().mapToLong(MeshData::triangles).sum();
      cell = size;
      tried *= Math.max(1.3, Math.sqrt((double) triangles / mostTriangles));
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

  /** Every vertex goes to the middle of its cell; triangles that vanish by it are left out. */
  private static MeshData gathered(MeshData mesh, double cell) {
    double[] min = mesh.box().min();
    long[] cellOf = new long[mesh.vertices()];
    for (int v = 0; v < cellOf.length; v++) {
      for (int k = 0; k < 3; k++) {
        long along = (long) ((mesh.points()[v * 3 + k] - min[k]) / cell);
        cellOf[v] |= Math.min(along, CELLS) << (k * CELL_BITS);
      }
    }
    long[] cells = Arrays.stream(cellOf).sorted().distinct().toArray();
    float[] points = new float[cells.length * 3];
    for (int c = 0; c < cells.length; c++) {
      for (int k = 0; k < 3; k++) {
        long along = cells[c] >> (k * CELL_BITS) & CELLS;
        points[c * 3 + k] = (float) (min[k] + (along + 0.5) * cell);
      }
    }
    int[] target = new int[cellOf.length];
    for (int v = 0; v < target.length; v++) {
      target[v] = Arrays.binarySearch(cells, cellOf[v]);
    }
    int[] corners = new int[mesh.corners().length];
    int filled = 0;
    for (int t = 0; t < mesh.corners().length; t += 3) {
      int a = target[mesh.corners()[t]];
      int b = target[mesh.corners()[t + 1]];
      int c = target[mesh.corners()[t + 2]];
      if (a != b && b != c && a != c) {
        corners[filled++] = a;
        corners[filled++] = b;
        corners[filled++] = c;
      }
    }
    return new MeshData(points, Arrays.copyOf(corners, filled));
  }
}
