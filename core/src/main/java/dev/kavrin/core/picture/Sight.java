package dev.kavrin.core.picture;

import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.DrawingReader;
import dev.kavrin.core.content.Lines;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.content.mesh.ShapeReader;
import dev.kavrin.core.content.mesh.Shapes;
import dev.kavrin.core.health.Readers;
import java.awt.geom.Line2D;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * The line one looks along through a spot of a picture, and what it meets.
 *
 * @param from a point on it: x, y, z in the file's own unit
 * @param along its direction, of length 1
 * @param near how close line work must be to count as met; zero for surfaces
 */
public record Sight(double[] from, double[] along, double near) {
  private static final double PIXELS_NEAR = 4;
  private static final double PARALLEL = 1e-14;

  /**
   * Through a spot of the picture {@link Pictures} draws of that file in that frame.
   *
   * @param x from the left, 0 to 1
   * @param y from the top, 0 to 1
   * @return empty if the picture shows nothing in space
   * @throws IOException the device failed
   */
  public static Optional<Sight> through(
      SeekableByteChannel in, String name, SiblingFiles beside, Frame frame, double x, double y)
      throws IOException {
    double right = (x - 0.5) * frame.width();
    double up = (0.5 - y) * frame.height();
    ContentReader reader = Readers.of(in, name).orElse(null);
    if (reader instanceof ShapeReader shaped) {
      try (Shapes shapes = shaped.shapes(in, beside)) {
        return new ModelPicture().sight(shapes, frame, right, up);
      }
    }
    if (reader instanceof DrawingReader drawn) {
      return DrawingPicture.view(drawn.lines(in), frame)
          .map(
              view ->
                  new Sight(
                      new double[] {
                        view.centreX() + right / view.scale(), view.centreY() + up / view.scale(), 0
                      },
                      new double[] {0, 0, 1},
                      PIXELS_NEAR / view.scale()));
    }
    return Optional.empty();
  }

  /** Whether it passes through a box, by the three slabs the box is made of. */
  public boolean meets(Box box) {
    double enter = Double.NEGATIVE_INFINITY;
    double leave = Double.POSITIVE_INFINITY;
    double room = near + box.diagonal() * 1e-9 + box.precision();
    for (int k = 0; k < 3; k++) {
      double low = box.min()[k] - room - from[k];
      double high = box.max()[k] + room - from[k];
      if (Math.abs(along[k]) < PARALLEL) {
        if (low > 0 || high < 0) {
          return false;
        }
      } else {
        enter = Math.max(enter, Math.min(low / along[k], high / along[k]));
        leave = Math.min(leave, Math.max(low / along[k], high / along[k]));
      }
    }
    return enter <= leave;
  }

  /**
   * Ids of the parts of a file it meets: a triangle of theirs, or a stroke.
   *
   * @throws IOException the device failed
   */
  public List<String> met(SeekableByteChannel in, String name, SiblingFiles beside)
      throws IOException {
    ContentReader reader = Readers.of(in, name).orElse(null);
    if (reader instanceof ShapeReader shaped) {
      List<String> met = new ArrayList<>();
      try (Shapes shapes = shaped.shapes(in, beside)) {
        for (String part : shapes.parts()) {
          MeshData mesh = shapes.shape(part);
          if (ModelPicture.isDrawn(mesh) && meets(mesh.box()) && meets(mesh)) {
            met.add(part);
          }
        }
      }
      return met;
    }
    return reader instanceof DrawingReader drawn ? layers(drawn.lines(in)) : List.of();
  }

  private List<String> layers(Lines lines) {
    Set<String> met = new TreeSet<>();
    lines.each(
        (layer, x1, y1, x2, y2) -> {
          if (Line2D.ptSegDist(x1, y1, x2, y2, from[0], from[1]) <= near) {
            met.add(layer);
          }
        });
    return List.copyOf(met);
  }

  /**
   * Whether it meets a triangle, from either side. T. Möller and B. Trumbore, Fast, Minimum Storage
   * Ray–Triangle Intersection, Journal of Graphics Tools 2 (1997).
   */
  boolean meets(MeshData mesh) {
    double[] a = new double[3];
    double[] e1 = new double[3];
    double[] e2 = new double[3];
    for (int t = 0; t < mesh.corners().length; t += 3) {
      for (int k = 0; k < 3; k++) {
        a[k] = mesh.points()[mesh.corners()[t] * 3 + k];
        e1[k] = mesh.points()[mesh.corners()[t + 1] * 3 + k] - a[k];
        e2[k] = mesh.points()[mesh.corners()[t + 2] * 3 + k] - a[k];
      }
      double[] p = cross(along, e2);
      double det = dot(e1, p);
      if (det == 0) {
        continue;
      }
      double[] s = {from[0] - a[0], from[1] - a[1], from[2] - a[2]};
      double u = dot(s, p) / det;
      double v = dot(along, cross(s, e1)) / det;
      if (u >= 0 && v >= 0 && u + v <= 1) {
        return true;
      }
    }
    return false;
  }

  private static double[] cross(double[] a, double[] b) {
    return new double[] {
      a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]
    };
  }

  private static double dot(double[] a, double[] b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  }
}
