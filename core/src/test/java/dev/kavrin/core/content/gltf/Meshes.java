package dev.kavrin.core.content.gltf;

import dev.kavrin.core.content.mesh.MeshData;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;

/** Closed surfaces whose area and volume have formulas. */
public final class Meshes {
  private Meshes() {}

  /** Corners at the origin and one step along each axis. */
  public static MeshData tetrahedron() {
    return new MeshData(
        new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1},
        new int[] {0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3});
  }

  public static MeshData cube(float side) {
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

  /** Corners at (0, ±1, ±φ) and their turns; edges of length 2. */
  public static MeshData icosahedron() {
    float f = (float) ((1 + Math.sqrt(5)) / 2);
    return new MeshData(
        new float[] {
          -1, f, 0, 1, f, 0, -1, -f, 0, 1, -f, 0, 0, -1, f, 0, 1, f, 0, -1, -f, 0, 1, -f, f, 0, -1,
          f, 0, 1, -f, 0, -1, -f, 0, 1
        },
        new int[] {
          0, 11, 5, 0, 5, 1, 0, 1, 7, 0, 7, 10, 0, 10, 11, 1, 5, 9, 5, 11, 4, 11, 10, 2, 10, 7, 6,
          7, 1, 8, 3, 9, 4, 3, 4, 2, 3, 2, 6, 3, 6, 8, 3, 8, 9, 4, 9, 5, 2, 4, 11, 6, 2, 10, 8, 6,
          7, 9, 8, 1
        });
  }

  public static MeshData sphere(double r, int n) {
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

  public static MeshData torus(double ring, double tube, int n) {
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

  /**
   * The Stanford bunny as published in the npm package "bunny": 1,839 vertices, 3,674 triangles.
   */
  public static MeshData bunny() throws IOException {
    String source = Files.readString(Path.of("..", "web", "node_modules", "bunny", "index.js"));
    List<Float> points = numbers(section(source, "positions"));
    List<Float> corners = numbers(section(source, "cells"));
    float[] at = new float[points.size()];
    int[] of = new int[corners.size()];
    for (int i = 0; i < at.length; i++) {
      at[i] = points.get(i);
    }
    for (int i = 0; i < of.length; i++) {
      of[i] = corners.get(i).intValue();
    }
    return new MeshData(at, of);
  }

  private static String section(String source, String name) {
    int open = source.indexOf('[', source.indexOf(name));
    return source.substring(open, source.indexOf("]]", open));
  }

  private static List<Float> numbers(String text) {
    return Pattern.compile("-?\\d+(?:\\.\\d+)?(?:e-?\\d+)?")
        .matcher(text)
        .results()
        .map(m -> Float.valueOf(m.group()))
        .toList();
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
