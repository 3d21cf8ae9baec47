package dev.kavrin.core.picture;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Arrays;
import javax.imageio.ImageIO;

/** Pixels with a depth each; nothing is smoothed, so that two drawings of the same are equal. */
final class Canvas {
  /** Beyond any depth of a model, and small enough to tell depths apart behind it. */
  private static final double FAR = 1e9;

  private final int width;
  private final int height;
  private final int[] pixels;
  private final double[] depth;

  /** All transparent. */
  Canvas(int width, int height) {
    this.width = width;
    this.height = height;
    this.pixels = new int[width * height];
    this.depth = new double[width * height];
    Arrays.fill(depth, Double.NEGATIVE_INFINITY);
  }

  int width() {
    return width;
  }

  int height() {
    return height;
  }

  void put(int x, int y, int colour) {
    if (x >= 0 && y >= 0 && x < width && y < height) {
      pixels[y * width + x] = colour;
    }
  }

  /**
   * A triangle; of what lies behind one another the nearest is seen.
   *
   * @param corners x, y in pixels and z towards the eye, three times
   */
  void triangle(double[] corners, int colour) {
    triangle(corners, colour, 0);
  }

  /** The same behind everything that is not drawn so, however near it is. */
  void behind(double[] corners, int colour) {
    triangle(corners, colour, FAR);
  }

  private void triangle(double[] corners, int colour, double further) {
    double area =
        (corners[3] - corners[0]) * (corners[7] - corners[1])
            - (corners[6] - corners[0]) * (corners[4] - corners[1]);
    if (area == 0) {
      return;
    }
    int left = clamp(Math.min(corners[0], Math.min(corners[3], corners[6])), width);
    int right = clamp(Math.max(corners[0], Math.max(corners[3], corners[6])) + 1, width);
    int top = clamp(Math.min(corners[1], Math.min(corners[4], corners[7])), height);
    int bottom = clamp(Math.max(corners[1], Math.max(corners[4], corners[7])) + 1, height);
    for (int y = top; y < bottom; y++) {
      for (int x = left; x < right; x++) {
        double px = x + 0.5;
        double py = y + 0.5;
        double b =
            ((px - corners[0]) * (corners[7] - corners[1])
                    - (corners[6] - corners[0]) * (py - corners[1]))
                / area;
        double c =
            ((corners[3] - corners[0]) * (py - corners[1])
                    - (px - corners[0]) * (corners[4] - corners[1]))
                / area;
        if (b >= 0 && c >= 0 && b + c <= 1) {
          double z =
              corners[2] + b * (corners[5] - corners[2]) + c * (corners[8] - corners[2]) - further;
          int at = y * width + x;
          if (z > depth[at]) {
            depth[at] = z;
            pixels[at] = colour;
          }
        }
      }
    }
  }

  /** The same colour, hardly there. */
  static int faint(int colour) {
    return colour & 0xFFFFFF | 0x38000000;
  }

  private static int clamp(double value, int most) {
    return (int) Math.max(0, Math.min(most, Math.floor(value)));
  }

  /** A line one pixel wide, both ends in pixels. */
  void line(double fromX, double fromY, double toX, double toY, int colour) {
    double steps = Math.ceil(Math.max(Math.abs(toX - fromX), Math.abs(toY - fromY)));
    int most = (int) Math.min(steps, 4.0 * (width + height));
    for (int i = 0; i <= most; i++) {
      double t = most == 0 ? 0 : (double) i / most;
      put(
          (int) Math.floor(fromX + t * (toX - fromX)),
          (int) Math.floor(fromY + t * (toY - fromY)),
          colour);
    }
  }

  /** As PNG with transparency. */
  byte[] png() {
    BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_ARGB);
    image.setRGB(0, 0, width, height, pixels, 0, width);
    return Canvas.png(image);
  }

  static byte[] png(BufferedImage image) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try {
      ImageIO.setUseCache(false);
      ImageIO.write(image, "png", out);
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return out.toByteArray();
  }
}
