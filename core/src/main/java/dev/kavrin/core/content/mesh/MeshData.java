package dev.kavrin.core.content.mesh;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Box;
import jakarta.annotation.Nullable;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Triangles of one mesh.
 *
 * @param points x, y, z of each vertex
 * @param corners three vertex numbers a triangle
 */
public record MeshData(float[] points, int[] corners) {
  private static final int BLOCK = 1 << 14;
  private static final VarHandle NUMBERS =
      MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);

  public int vertices() {
    return points.length / 3;
  }

  public int triangles() {
    return corners.length / 3;
  }

  /** 128-bit digest over canonical numbers: −0 is 0 and there is one not-a-number. */
  public String fingerprint() {
    ContentHash hash = new ContentHash();
    byte[] block = new byte[BLOCK];
    int at = 0;
    for (float value : points) {
      at = put(hash, block, at, value == 0 ? 0 : Float.floatToIntBits(value));
    }
    for (int corner : corners) {
      at = put(hash, block, at, corner);
    }
    return hash.add(block, 0, at).id().toString();
  }

  private static int put(ContentHash hash, byte[] block, int at, int value) {
    NUMBERS.set(block, at, value);
    if (at + Integer.BYTES < block.length) {
      return at + Integer.BYTES;
    }
    hash.add(block);
    return 0;
  }

  /** Null without a vertex. */
  @Nullable
  public Box box() {
    double[] min = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
    double[] max = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
    for (int i = 0; i < points.length; i++) {
      min[i % 3] = Math.min(min[i % 3], points[i]);
      max[i % 3] = Math.max(max[i % 3], points[i]);
    }
    return points.length == 0 ? null : new Box(min, max);
  }

  public double area() {
    return surface().area();
  }

  /** Volume by the divergence theorem; negative if a closed surface is turned inside out. */
  public double signedVolume() {
    return surface().volume();
  }

  /**
   * What its triangles come to.
   *
   * @param volume signed, by the divergence theorem
   * @param centroid of the surface, each triangle by its area
   * @param spread root mean square distance of the surface from its centroid
   */
  public record Surface(double area, double volume, double[] centroid, double spread) {}

  /**
   * One pass over the triangles. Moments of a triangle: the mean of x² over it is (Σ xi² + (Σ xi)²)
   * / 12, by integration.
   */
  public Surface surface() {
    double area = 0;
    double volume = 0;
    double[] first = new double[3];
    double second = 0;
    double[] origin =
        vertices() == 0 ? new double[3] : new double[] {points[0], points[1], points[2]};
    for (int t = 0; t < corners.length; t += 3) {
      int a = corners[t] * 3;
      int b = corners[t + 1] * 3;
      int c = corners[t + 2] * 3;
      double ux = (double) points[b] - points[a];
      double uy = (double) points[b + 1] - points[a + 1];
      double uz = (double) points[b + 2] - points[a + 2];
      double vx = (double) points[c] - points[a];
      double vy = (double) points[c + 1] - points[a + 1];
      double vz = (double) points[c + 2] - points[a + 2];
      double nx = uy * vz - uz * vy;
      double ny = uz * vx - ux * vz;
      double nz = ux * vy - uy * vx;
      double own = Math.sqrt(nx * nx + ny * ny + nz * nz) / 2;
      area += own;
      volume +=
          (points[a] - origin[0]) * nx
              + (points[a + 1] - origin[1]) * ny
              + (points[a + 2] - origin[2]) * nz;
      for (int k = 0; k < 3; k++) {
        double p = points[a + k] - origin[k];
        double q = points[b + k] - origin[k];
        double r = points[c + k] - origin[k];
        double sum = p + q + r;
        first[k] += own * sum / 3;
        second += own * (p * p + q * q + r * r + sum * sum) / 12;
      }
    }
    double[] centroid = new double[3];
    double square = area == 0 ? 0 : second / area;
    for (int k = 0; k < 3; k++) {
      double mean = area == 0 ? 0 : first[k] / area;
      centroid[k] = origin[k] + mean;
      square -= mean * mean;
    }
    return new Surface(area, volume / 6, centroid, Math.sqrt(Math.max(0, square)));
  }

  /** The same with each triangle seen from its other side. */
  public MeshData turnedRound() {
    int[] turned = corners.clone();
    for (int t = 0; t < turned.length; t += 3) {
      turned[t + 1] = corners[t + 2];
      turned[t + 2] = corners[t + 1];
    }
    return new MeshData(points, turned);
  }

  public boolean allFinite() {
    for (float value : points) {
      if (!Float.isFinite(value)) {
        return false;
      }
    }
    return true;
  }
}
