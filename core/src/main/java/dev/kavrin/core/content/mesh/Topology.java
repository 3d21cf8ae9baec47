package dev.kavrin.core.content.mesh;

import java.util.Arrays;

/**
 * How the triangles of a mesh hang together, vertices at the same point being one.
 *
 * @param degenerate triangles without an area, by two of their corners being one
 * @param open edges with a triangle on one side only
 * @param holes rims those edges form
 * @param twisted edges whose two triangles look different ways
 */
public record Topology(long degenerate, long open, long holes, long twisted) {
  /** Above that many triangles nobody asks: it would take more memory than a reader has. */
  static final int MOST = 1_500_000;

  /** True if it encloses a room, seen from outside throughout. */
  public boolean isClosed() {
    return open == 0 && twisted == 0;
  }

  /** In time that grows with n log n, n being the edges. */
  public static Topology of(MeshData mesh) {
    int[] welded = welded(mesh.points());
    long[] edges = new long[mesh.corners().length];
    int count = 0;
    long degenerate = 0;
    for (int t = 0; t < mesh.corners().length; t += 3) {
      int a = welded[mesh.corners()[t]];
      int b = welded[mesh.corners()[t + 1]];
      int c = welded[mesh.corners()[t + 2]];
      if (a == b || b == c || a == c) {
        degenerate++;
        continue;
      }
      edges[count++] = edge(a, b);
      edges[count++] = edge(b, c);
      edges[count++] = edge(c, a);
    }
    Arrays.sort(edges, 0, count);
    Rims rims = new Rims(mesh.vertices());
    long open = 0;
    long twisted = 0;
    for (int i = 0; i < count; ) {
      int next = i + 1;
      while (next < count && edges[next] >>> 1 == edges[i] >>> 1) {
        next++;
      }
      if (next - i == 1) {
        open++;
        rims.join((int) (edges[i] >>> 32), (int) (edges[i] >>> 1 & 0x7fff_ffffL));
      } else if (next - i == 2 && (edges[i] & 1) == (edges[i + 1] & 1)) {
        twisted++;
      }
      i = next;
    }
    return new Topology(degenerate, open, rims.count(), twisted);
  }

  /** Both ends, the lower first, and in the lowest bit which way it is gone along. */
  private static long edge(int from, int to) {
    long low = Math.min(from, to);
    long high = Math.max(from, to);
    return low << 32 | high << 1 | (from < to ? 0 : 1);
  }

  /** For each vertex the first one that stands at the same point. */
  private static int[] welded(float[] points) {
    int vertices = points.length / 3;
    int[] table = new int[Integer.highestOneBit(Math.max(8, vertices)) * 4];
    Arrays.fill(table, -1);
    int[] first = new int[vertices];
    for (int v = 0; v < vertices; v++) {
      int slot = hash(points, v) & table.length - 1;
      while (table[slot] >= 0 && !same(points, table[slot], v)) {
        slot = slot + 1 & table.length - 1;
      }
      if (table[slot] < 0) {
        table[slot] = v;
      }
      first[v] = table[slot];
    }
    return first;
  }

  private static int hash(float[] points, int vertex) {
    int hash = 17;
    for (int k = 0; k < 3; k++) {
      hash = hash * 0x9E3779B1 + Float.floatToIntBits(points[vertex * 3 + k] + 0f);
    }
    return hash ^ hash >>> 15;
  }

  private static boolean same(float[] points, int a, int b) {
    return points[a * 3] == points[b * 3]
        && points[a * 3 + 1] == points[b * 3 + 1]
        && points[a * 3 + 2] == points[b * 3 + 2];
  }

  /** Open edges that touch belong to one rim. */
  private static final class Rims {
    private final int[] towards;
    private long joined;
    private long vertices;

    Rims(int size) {
      towards = new int[size];
      Arrays.fill(towards, -1);
    }

    private int root(int vertex) {
      if (towards[vertex] < 0) {
        towards[vertex] = vertex;
        vertices++;
      }
      int at = vertex;
      while (towards[at] != at) {
        towards[at] = towards[towards[at]];
        at = towards[at];
      }
      return at;
    }

    void join(int a, int b) {
      int x = root(a);
      int y = root(b);
      if (x != y) {
        towards[x] = y;
        joined++;
      }
    }

    long count() {
      return vertices - joined;
    }
  }
}
