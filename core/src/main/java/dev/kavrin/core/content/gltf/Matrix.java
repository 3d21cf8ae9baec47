package dev.kavrin.core.content.gltf;

import tools.jackson.databind.JsonNode;

/** A 4×4 transform, column by column as glTF writes it. */
record Matrix(double[] m) {
  static final Matrix IDENTITY =
      new Matrix(new double[] {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1});

  static Matrix of(JsonNode node) {
    JsonNode given = node.path("matrix");
    if (given.isArray() && given.size() == 16) {
      return new Matrix(numbers(given, 16, 0));
    }
    double[] t = numbers(node.path("translation"), 3, 0);
    double[] s = numbers(node.path("scale"), 3, 1);
    JsonNode r = node.path("rotation");
    double[] q = r.size() == 4 ? numbers(r, 4, 0) : new double[] {0, 0, 0, 1};
    return compose(t, q, s);
  }

  private static double[] numbers(JsonNode array, int count, double fallback) {
    double[] values = new double[count];
    for (int i = 0; i < count; i++) {
      values[i] = array.path(i).asDouble(fallback);
    }
    return values;
  }

  private static Matrix compose(double[] t, double[] q, double[] s) {
    double x = q[0];
    double y = q[1];
    double z = q[2];
    double w = q[3];
    return new Matrix(
        new double[] {
          (1 - 2 * (y * y + z * z)) * s[0],
          2 * (x * y + z * w) * s[0],
          2 * (x * z - y * w) * s[0],
          0,
          2 * (x * y - z * w) * s[1],
          (1 - 2 * (x * x + z * z)) * s[1],
          2 * (y * z + x * w) * s[1],
          0,
          2 * (x * z + y * w) * s[2],
          2 * (y * z - x * w) * s[2],
          (1 - 2 * (x * x + y * y)) * s[2],
          0,
          t[0],
          t[1],
          t[2],
          1
        });
  }

  /** True if it turns left into right. */
  boolean mirrors() {
    return m[0] * (m[5] * m[10] - m[9] * m[6])
            - m[4] * (m[1] * m[10] - m[9] * m[2])
            + m[8] * (m[1] * m[6] - m[5] * m[2])
        < 0;
  }

  Matrix times(Matrix right) {
    double[] out = new double[16];
    for (int column = 0; column < 4; column++) {
      for (int row = 0; row < 4; row++) {
        double sum = 0;
        for (int k = 0; k < 4; k++) {
          sum += m[k * 4 + row] * right.m[column * 4 + k];
        }
        out[column * 4 + row] = sum;
      }
    }
    return new Matrix(out);
  }

  /** Of a transform that keeps parallels; its last row is 0, 0, 0, 1. */
  Matrix inverse() {
    double[] out = new double[16];
    double det =
        m[0] * (m[5] * m[10] - m[9] * m[6])
            - m[4] * (m[1] * m[10] - m[9] * m[2])
            + m[8] * (m[1] * m[6] - m[5] * m[2]);
    for (int column = 0; column < 3; column++) {
      for (int row = 0; row < 3; row++) {
        int r1 = (row + 1) % 3;
        int r2 = (row + 2) % 3;
        int c1 = (column + 1) % 3;
        int c2 = (column + 2) % 3;
        out[column * 4 + row] =
            (m[r1 * 4 + c1] * m[r2 * 4 + c2] - m[r2 * 4 + c1] * m[r1 * 4 + c2]) / det;
      }
    }
    for (int row = 0; row < 3; row++) {
      for (int k = 0; k < 3; k++) {
        out[12 + row] -= out[k * 4 + row] * m[12 + k];
      }
    }
    out[15] = 1;
    return new Matrix(out);
  }

  /** Moves points x, y, z, x, y, z … to world space. */
  float[] apply(float[] points) {
    float[] out = new float[points.length];
    for (int i = 0; i + 2 < points.length; i += 3) {
      for (int row = 0; row < 3; row++) {
        out[i + row] =
            (float)
                (m[row] * points[i]
                    + m[4 + row] * points[i + 1]
                    + m[8 + row] * points[i + 2]
                    + m[12 + row]);
      }
    }
    return out;
  }
}
