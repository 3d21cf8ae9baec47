package dev.kavrin.core.content.gltf;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Box;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * Triangles of one mesh, all its primitives joined.
 *
 * @param points x, y, z of each vertex
 * @param corners three vertex numbers a triangle
 */
public record MeshData(float[] points, int[] corners) {

  public int vertices() {
    return points.length / 3;
  }

  public int triangles() {
    return corners.length / 3;
  }

  /** 128-bit digest over canonical numbers: −0 is 0 and there is one not-a-number. */
  String fingerprint() {
    ContentHash hash = new ContentHash();
    ByteBuffer buffer = ByteBuffer.allocate(1 << 14).order(ByteOrder.LITTLE_ENDIAN);
    for (float value : points) {
      put(hash, buffer, value == 0 ? 0 : Float.floatToIntBits(value));
    }
    for (int corner : corners) {
      put(hash, buffer, corner);
    }
    hash.add(buffer.array(), 0, buffer.position());
    return hash.id().toString();
  }

  private static void put(ContentHash hash, ByteBuffer buffer, int value) {
    if (!buffer.hasRemaining()) {
      hash.add(buffer.array());
      buffer.clear();
    }
    buffer.putInt(value);
  }

  Box box() {
    double[] min = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
    double[] max = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
    for (int i = 0; i < points.length; i++) {
      min[i % 3] = Math.min(min[i % 3], points[i]);
      max[i % 3] = Math.max(max[i % 3], points[i]);
    }
    return points.length == 0 ? null : new Box(min, max);
  }

  public double area() {
    double sum = 0;
    for (int t = 0; t < corners.length; t += 3) {
      double[] c = cross(t);
      sum += Math.sqrt(c[0] * c[0] + c[1] * c[1] + c[2] * c[2]) / 2;
    }
    return sum;
  }

  /** Volume by the divergence theorem; negative if a closed surface is turned inside out. */
  public double signedVolume() {
    double sum = 0;
    for (int t = 0; t < corners.length; t += 3) {
      double[] c = cross(t);
      int a = corners[t] * 3;
      sum += points[a] * c[0] + points[a + 1] * c[1] + points[a + 2] * c[2];
    }
    return sum / 6;
  }

  private double[] cross(int triangle) {
    int a = corners[triangle] * 3;
    int b = corners[triangle + 1] * 3;
    int c = corners[triangle + 2] * 3;
    double ux = (double) points[b] - points[a];
    double uy = (double) points[b + 1] - points[a + 1];
    double uz = (double) points[b + 2] - points[a + 2];
    double vx = (double) points[c] - points[a];
    double vy = (double) points[c + 1] - points[a + 1];
    double vz = (double) points[c + 2] - points[a + 2];
    return new double[] {uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx};
  }

  boolean allFinite() {
    for (float value : points) {
      if (!Float.isFinite(value)) {
        return false;
      }
    }
    return true;
  }
}
