package dev.kavrin.core.picture;

import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.content.mesh.Shapes;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.util.Optional;

/**
 * Meshes in grey clay, seen from a little to the right and above without perspective. Faces that
 * look away are darker and warmer, so that a surface turned inside out stands out.
 */
final class ModelPicture {
  private static final double TURN = Math.toRadians(35);
  private static final double TILT = Math.toRadians(24);
  private static final double MARGIN = 0.04;
  private static final int CLAY = 0xB9B2A3;
  private static final int INSIDE = 0xA4502F;

  private final double[] right = {Math.cos(TURN), 0, -Math.sin(TURN)};
  private final double[] up = {
    -Math.sin(TURN) * Math.sin(TILT), Math.cos(TILT), -Math.cos(TURN) * Math.sin(TILT)
  };
  private final double[] towards = {
    Math.sin(TURN) * Math.cos(TILT), Math.sin(TILT), Math.cos(TURN) * Math.cos(TILT)
  };

  /** Where the eye is, seen from what is drawn; of length 1. */
  double[] towards() {
    return towards.clone();
  }

  /** Null if there is no surface in it. */
  @Nullable
  Canvas draw(Shapes shapes, Frame frame) throws IOException {
    View view = view(shapes, frame);
    if (view == null) {
      return null;
    }
    Canvas canvas = new Canvas(frame.width(), frame.height());
    for (String part : shapes.parts()) {
      MeshData mesh = shapes.shape(part);
      if (isDrawn(mesh)) {
        draw(mesh, canvas, view, frame.isFaint(part));
      }
    }
    return canvas;
  }

  /** The line of sight so many pixels right of and above the middle. */
  Optional<Sight> sight(Shapes shapes, Frame frame, double pixelsRight, double pixelsUp)
      throws IOException {
    View view = view(shapes, frame);
    if (view == null) {
      return Optional.empty();
    }
    double x = view.centreX() + pixelsRight / view.scale();
    double y = view.centreY() + pixelsUp / view.scale();
    double[] from = new double[3];
    for (int k = 0; k < 3; k++) {
      from[k] = right[k] * x + up[k] * y;
    }
    return Optional.of(new Sight(from, towards(), 0));
  }

  /** So that all of it is seen; null if there is no surface in it. */
  @Nullable
  private View view(Shapes shapes, Frame frame) throws IOException {
    double[] low = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
    double[] high = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
    for (String part : shapes.parts()) {
      MeshData mesh = shapes.shape(part);
      if (isDrawn(mesh)) {
        widen(mesh.box(), low, high);
      }
    }
    return low[0] > high[0] ? null : View.of(low, high, frame);
  }

  static boolean isDrawn(@Nullable MeshData mesh) {
    return mesh != null && mesh.triangles() > 0 && mesh.allFinite();
  }

  /**
   * How what lies in space comes onto a picture.
   *
   * @param scale pixels for one unit of length
   */
  record View(double scale, double centreX, double centreY) {
    /** With a margin around what lies between two corners. */
    static View of(double[] low, double[] high, Frame frame) {
      double across = Math.max(high[0] - low[0], 1e-12);
      double along = Math.max(high[1] - low[1], 1e-12);
      return new View(
          (1 - 2 * MARGIN) * Math.min(frame.width() / across, frame.height() / along),
          (low[0] + high[0]) / 2,
          (low[1] + high[1]) / 2);
    }
  }

  private void widen(Box box, double[] low, double[] high) {
    for (int corner = 0; corner < 8; corner++) {
      double[] point = new double[3];
      for (int k = 0; k < 3; k++) {
        point[k] = (corner >> k & 1) == 0 ? box.min()[k] : box.max()[k];
      }
      double x = along(right, point);
      double y = along(up, point);
      low[0] = Math.min(low[0], x);
      low[1] = Math.min(low[1], y);
      high[0] = Math.max(high[0], x);
      high[1] = Math.max(high[1], y);
    }
  }

  private static double along(double[] axis, double[] point) {
    return axis[0] * point[0] + axis[1] * point[1] + axis[2] * point[2];
  }

  private void draw(MeshData mesh, Canvas canvas, View view, boolean faint) {
    double[] corners = new double[9];
    double[][] points = new double[3][3];
    for (int t = 0; t < mesh.corners().length; t += 3) {
      for (int k = 0; k < 3; k++) {
        for (int axis = 0; axis < 3; axis++) {
          points[k][axis] = mesh.points()[mesh.corners()[t + k] * 3 + axis];
        }
        corners[k * 3] =
            canvas.width() / 2.0 + (along(right, points[k]) - view.centreX()) * view.scale();
        corners[k * 3 + 1] =
            canvas.height() / 2.0 - (along(up, points[k]) - view.centreY()) * view.scale();
        corners[k * 3 + 2] = along(towards, points[k]);
      }
      int shade = shade(points);
      if (faint) {
        canvas.behind(corners, Canvas.faint(shade));
      } else {
        canvas.triangle(corners, shade);
      }
    }
  }

  private int shade(double[][] p) {
    double[] u = {p[1][0] - p[0][0], p[1][1] - p[0][1], p[1][2] - p[0][2]};
    double[] v = {p[2][0] - p[0][0], p[2][1] - p[0][1], p[2][2] - p[0][2]};
    double[] n = {u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]};
    double length = Math.sqrt(along(n, n));
    double facing = length == 0 ? 0 : along(n, towards) / length;
    double above = length == 0 ? 0 : n[1] / length;
    double light = 0.5 + 0.38 * Math.abs(facing) + 0.12 * above * Math.signum(facing);
    return tinted(facing < 0 ? INSIDE : CLAY, Math.min(1.1, light));
  }

  private static int tinted(int colour, double light) {
    int tinted = 0xFF;
    for (int shift = 16; shift >= 0; shift -= 8) {
      long value = Math.round((colour >> shift & 0xFF) * light);
      tinted = tinted << 8 | (int) Math.min(255, value);
    }
    return tinted;
  }
}
