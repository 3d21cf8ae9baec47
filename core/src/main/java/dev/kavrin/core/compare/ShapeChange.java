package dev.kavrin.core.compare;

import dev.kavrin.core.compare.PartChange.Shift;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.mesh.MeshData;
import jakarta.annotation.Nullable;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Set;

/**
 * How the shape of a part differs in world space.
 *
 * @param same true if it counts as the same, however it was written
 * @param moved true if all of it moved alike
 * @param shift how far vertices moved; null where they cannot be told one from another
 */
record ShapeChange(boolean same, boolean moved, @Nullable Shift shift) {
  /** Nothing is known of the shapes. */
  static final ShapeChange UNKNOWN = new ShapeChange(false, false, null);

  private static final double MOST = 0.5;

  static ShapeChange of(MeshData a, MeshData b, Tolerance tolerance) {
    if (a.vertices() == b.vertices() && a.vertices() > 0) {
      ShapeChange change = inOrder(a, b, tolerance);
      if (change != null) {
        return change;
      }
    }
    return new ShapeChange(sameHowever(a, b, tolerance), false, null);
  }

  /** Vertex by vertex; null if they seem to stand in another order. */
  @Nullable
  private static ShapeChange inOrder(MeshData a, MeshData b, Tolerance tolerance) {
    float[] from = a.points();
    float[] to = b.points();
    double largest = 0;
    double squares = 0;
    double spread = 0;
    int near = 0;
    double[] first = {to[0] - (double) from[0], to[1] - (double) from[1], to[2] - (double) from[2]};
    double limit = tolerance.length() * tolerance.length();
    for (int i = 0; i + 2 < from.length; i += 3) {
      double square = 0;
      double apart = 0;
      for (int k = 0; k < 3; k++) {
        double d = (double) to[i + k] - from[i + k];
        square += d * d;
        apart = Math.max(apart, Math.abs(d - first[k]));
      }
      largest = Math.max(largest, square);
      squares += square;
      spread = Math.max(spread, apart);
      near += square <= limit ? 1 : 0;
    }
    boolean sameFaces = Arrays.equals(a.corners(), b.corners());
    if (!sameFaces && near < a.vertices() * MOST) {
      return null;
    }
    boolean same = largest <= limit && (sameFaces || sameSums(a, b, tolerance));
    boolean alike = sameFaces && spread <= tolerance.length() + 1e-6 * Math.sqrt(largest);
    return new ShapeChange(
        same, !same && alike, new Shift(Math.sqrt(largest), Math.sqrt(squares / a.vertices())));
  }

  /** The same points and the same sums, in whatever order and however often. */
  private static boolean sameHowever(MeshData a, MeshData b, Tolerance tolerance) {
    Box boxA = a.box();
    Box boxB = b.box();
    if (boxA == null || boxB == null) {
      return boxA == boxB;
    }
    for (int k = 0; k < 3; k++) {
      if (!tolerance.same(boxA.min()[k], boxB.min()[k])
          || !tolerance.same(boxA.max()[k], boxB.max()[k])) {
        return false;
      }
    }
    double cell = Math.max(2 * tolerance.length(), boxA.diagonal() * 1e-7);
    return sameSums(a, b, tolerance)
        && covers(a.points(), b.points(), cell)
        && covers(b.points(), a.points(), cell);
  }

  private static boolean sameSums(MeshData a, MeshData b, Tolerance tolerance) {
    MeshData.Surface x = a.surface();
    MeshData.Surface y = b.surface();
    Box box = a.box();
    double extent = box == null ? 0 : box.diagonal();
    return tolerance.same(x.area(), y.area(), extent)
        && (tolerance.same(x.volume(), y.volume(), extent)
            || Math.abs(x.volume() - y.volume()) <= x.area() * extent * 1e-6);
  }

  /** True if each of {@code inner} has a point of {@code outer} in its cell or one beside it. */
  private static boolean covers(float[] outer, float[] inner, double cell) {
    Set<Long> cells = new HashSet<>();
    for (int i = 0; i + 2 < outer.length; i += 3) {
      cells.add(key(outer, i, cell, 0));
    }
    for (int i = 0; i + 2 < inner.length; i += 3) {
      boolean found = false;
      for (int beside = 0; beside < 8 && !found; beside++) {
        found = cells.contains(key(inner, i, cell, beside));
      }
      if (!found) {
        return false;
      }
    }
    return true;
  }

  /**
   * A cell's key; the bits of {@code beside} choose, axis by axis, the neighbour the point is
   * nearest to.
   */
  private static long key(float[] points, int at, double cell, int beside) {
    long key = 7;
    for (int k = 0; k < 3; k++) {
      double place = points[at + k] / cell;
      long own = (long) Math.floor(place);
      long chosen = (beside >> k & 1) == 0 ? own : place - own < 0.5 ? own - 1 : own + 1;
      key = key * 0x9E3779B97F4A7C15L + chosen;
      key ^= key >>> 29;
    }
    return key;
  }
}
