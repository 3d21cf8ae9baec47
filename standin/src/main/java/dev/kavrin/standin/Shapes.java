package dev.kavrin.standin;

import dev.kavrin.core.content.mesh.MeshData;
import java.util.ArrayList;
import java.util.List;

/** Closed triangle meshes, surfaces outward, sizes in metres. */
public final class Shapes {
  private Shapes() {}

  private interface Surface {
    double[] at(double u, double v);
  }

  /** A box around the origin, each face a grid of {@code cells} by {@code cells}. */
  public static MeshData box(double width, double height, double depth, int cells) {
    double x = width / 2;
    double y = height / 2;
    double z = depth / 2;
    return joined(
        List.of(
            grid(cells, cells, (u, v) -> new double[] {lerp(x, u), lerp(y, v), z}),
            grid(cells, cells, (u, v) -> new double[] {-lerp(x, u), lerp(y, v), -z}),
            grid(cells, cells, (u, v) -> new double[] {x, lerp(y, v), -lerp(z, u)}),
            grid(cells, cells, (u, v) -> new double[] {-x, lerp(y, v), lerp(z, u)}),
            grid(cells, cells, (u, v) -> new double[] {lerp(x, u), y, -lerp(z, v)}),
            grid(cells, cells, (u, v) -> new double[] {lerp(x, u), -y, lerp(z, v)})));
  }

  private static double lerp(double half, double t) {
    return -half + 2 * half * t;
  }

  /** A ring around the x axis. */
  public static MeshData torus(double radius, double tube, int around, int across) {
    return grid(
        around,
        across,
        (u, v) -> {
          double a = 2 * Math.PI * u;
          double b = 2 * Math.PI * v;
          double r = radius + tube * Math.cos(b);
          return new double[] {tube * Math.sin(b), r * Math.cos(a), r * Math.sin(a)};
        });
  }

  /** A round bar along the x axis, ends closed to a point. */
  public static MeshData bar(double radius, double length, int around, int along) {
    return grid(
        along,
        around,
        (u, v) -> {
          double r = u == 0 || u == 1 ? 0 : radius;
          double x = lerp(length / 2, Math.min(1, Math.max(0, (u * along - 1) / (along - 2))));
          double a = 2 * Math.PI * v;
          return new double[] {-x, r * Math.cos(a), r * Math.sin(a)};
        });
  }

  /** A coil spring standing along y. */
  public static MeshData coil(double radius, double wire, double height, int turns, int around) {
    return grid(
        turns * 24,
        around,
        (u, v) -> {
          double a = 2 * Math.PI * turns * u;
          double b = -2 * Math.PI * v;
          double r = radius + wire * Math.cos(b);
          return new double[] {
            r * Math.cos(a), -height / 2 + height * u + wire * Math.sin(b), r * Math.sin(a)
          };
        });
  }

  public static MeshData moved(MeshData mesh, double x, double y, double z) {
    float[] points = mesh.points().clone();
    for (int i = 0; i < points.length; i += 3) {
      points[i] += (float) x;
      points[i + 1] += (float) y;
      points[i + 2] += (float) z;
    }
    return new MeshData(points, mesh.corners());
  }

  /** The same surface with its inside out. */
  public static MeshData turnedRound(MeshData mesh) {
    return mesh.turnedRound();
  }

  private static MeshData grid(int across, int up, Surface surface) {
    float[] points = new float[(across + 1) * (up + 1) * 3];
    int at = 0;
    for (int j = 0; j <= up; j++) {
      for (int i = 0; i <= across; i++) {
        for (double c : surface.at((double) i / across, (double) j / up)) {
          points[at++] = (float) c;
        }
      }
    }
    int[] corners = new int[across * up * 6];
    int t = 0;
    for (int j = 0; j < up; j++) {
      for (int i = 0; i < across; i++) {
        int a = j * (across + 1) + i;
        int b = a + across + 1;
        for (int corner : new int[] {a, a + 1, b + 1, a, b + 1, b}) {
          corners[t++] = corner;
        }
      }
    }
    return new MeshData(points, corners);
  }

  public static MeshData joined(List<MeshData> meshes) {
    List<Float> points = new ArrayList<>();
    List<Integer> corners = new ArrayList<>();
    for (MeshData mesh : meshes) {
      int first = points.size() / 3;
      for (float p : mesh.points()) {
        points.add(p);
      }
      for (int c : mesh.corners()) {
        corners.add(c + first);
      }
    }
    float[] p = new float[points.size()];
    for (int i = 0; i < p.length; i++) {
      p[i] = points.get(i);
    }
    return new MeshData(p, corners.stream().mapToInt(Integer::intValue).toArray());
  }
}
