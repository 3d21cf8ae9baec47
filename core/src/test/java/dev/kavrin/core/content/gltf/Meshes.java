package dev.kavrin.core.content.gltf;

/** Closed surfaces whose area and volume have formulas. */
final class Meshes {
  private Meshes() {}

  /** Corners at the origin and one step along each axis. */
  static MeshData tetrahedron() {
    return new MeshData(
        new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1},
        new int[] {0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3});
  }

  static MeshData cube(float side) {
    float s = side;
    return new MeshData(
        new float[] {0, 0, 0, s, 0, 0, s, s, 0, 0, s, 0, 0, 0, s, s, 0, s, s, s, s, 0, s, s},
        new int[] {
          0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 3, 7, 6, 3, 6, 2, 0, 4, 7, 0, 7, 3,
          1, 2, 6, 1, 6, 5
        });
  }

  private interface Surface {
    double[] at(double u, double v);
  }

  static MeshData sphere(double r, int n) {
    return grid(
        n,
        n,
        (u, v) -> {
          double a = 2 * Math.PI * u;
          double b = Math.PI * v;
          return new double[] {
            r * Math.sin(b) * Math.cos(a), r * Math.sin(b) * Math.sin(a), -r * Math.cos(b)
          };
        });
  }

  static MeshData torus(double ring, double tube, int n) {
    return grid(
        n,
        n,
        (u, v) -> {
          double a = 2 * Math.PI * u;
          double b = 2 * Math.PI * v;
          double r = ring + tube * Math.cos(b);
          return new double[] {r * Math.cos(a), r * Math.sin(a), tube * Math.sin(b)};
        });
  }

  static MeshData turnedRound(MeshData mesh) {
    int[] corners = mesh.corners().clone();
    for (int t = 0; t < corners.length; t += 3) {
      int held = corners[t];
      corners[t] = corners[t + 1];
      corners[t + 1] = held;
    }
    return new MeshData(mesh.points(), corners);
  }

  private static MeshData grid(int across, int up, Surface surface) {
    float[] points = new float[(across + 1) * (up + 1) * 3];
    int[] corners = new int[across * up * 6];
    int at = 0;
    int t = 0;
    for (int j = 0; j <= up; j++) {
      for (int i = 0; i <= across; i++) {
        for (double c : surface.at((double) i / across, (double) j / up)) {
          points[at++] = (float) c;
        }
        if (i < across && j < up) {
          int a = j * (across + 1) + i;
          for (int corner :
              new int[] {a, a + 1, a + across + 2, a, a + across + 2, a + across + 1}) {
            corners[t++] = corner;
          }
        }
      }
    }
    return new MeshData(points, corners);
  }
}
