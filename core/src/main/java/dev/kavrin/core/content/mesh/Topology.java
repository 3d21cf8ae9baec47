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

  /** In time that grows with the number of triangles. */
  public static Topology of(MeshData mesh) {
    int[] welded = welded(mesh.points());
    int[] corners = mesh.corners();
    Edges edges = new Edges(corners.length);
    long degenerate = 0;
    for (int t = 0; t < corners.length; t += 3) {
      int a = welded[corners[t]];
      int b = welded[corners[t + 1]];
      int c = welded[corners[t + 2]];
      if (a == b || b == c || a == c) {
        degenerate++;
        continue;
      }
      edges.add(a, b);
      edges.add(b, c);
      edges.add(c, a);
    }
    Rims rims = new Rims(mesh.vertices());
    long open = 0;
    long twisted = 0;
    for (int slot = 0; slot < edges.ways.length; slot++) {
      int ways = edges.ways[slot];
      if (ways == Edges.ONE_WAY || ways == Edges.OTHER_WAY) {
        open++;
        rims.join((int) (edges.keys[slot] >>> 32), (int) edges.keys[slot]);
      } else if (ways == 2 * Edges.ONE_WAY || ways == 2 * Edges.OTHER_WAY) {
        twisted++;
      }
    }
    return new Topology(degenerate, open, rims.count(), twisted);
  }

  /** How often each edge is gone along, one way and the other. */
  private static final class Edges {
    private static final int ONE_WAY = 1;
    private static final int OTHER_WAY = 8;
    private static final int MOST_TOLD = 7;

    private final long[] keys;
    private final byte[] ways;

    Edges(int most) {
      int size = Integer.highestOneBit(Math.max(8, most)) * 2;
      keys = new long[size];
      ways = new byte[size];
    }

    void add(int from, int to) {
      long key = (long) Math.min(from, to) << 32 | Math.max(from, to);
      long hash = key * 0x9E3779B97F4A7C15L;
      int slot = (int) (hash >>> 32) & keys.length - 1;
      while (ways[slot] != 0 && keys[slot] != key) {
        slot = slot + 1 & keys.length - 1;
      }
      keys[slot] = key;
      int way = from < to ? ONE_WAY : OTHER_WAY;
      if ((ways[slot] / way & MOST_TOLD) < MOST_TOLD) {
        ways[slot] += (byte) way;
      }
    }
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
