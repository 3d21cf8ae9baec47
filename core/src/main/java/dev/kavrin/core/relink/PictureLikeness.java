package dev.kavrin.core.relink;

import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.Optional;
import javax.imageio.ImageIO;

/**
 * What a picture looks like from afar: 16 × 16 mean colours. Another size, format or compression
 * changes them little, another picture much.
 *
 * @param colours red, green and blue of each field, 0 to 255
 * @param shape width over height
 */
public record PictureLikeness(int[] colours, double shape) {
  private static final int SIDE = 16;

  /**
   * @param png a picture small enough for memory
   * @return empty for what is no picture
   */
  public static Optional<PictureLikeness> of(byte[] png) throws IOException {
    BufferedImage whole = ImageIO.read(new ByteArrayInputStream(png));
    if (whole == null) {
      return Optional.empty();
    }
    BufferedImage shown = shown(whole);
    BufferedImage small = shown;
    while (small.getWidth() > 2 * SIDE || small.getHeight() > 2 * SIDE) {
      small = scaled(small, half(small.getWidth()), half(small.getHeight()));
    }
    small = scaled(small, SIDE, SIDE);
    int[] colours = small.getRaster().getPixels(0, 0, SIDE, SIDE, (int[]) null);
    return Optional.of(new PictureLikeness(colours, (double) shown.getWidth() / shown.getHeight()));
  }

  /** Without the empty border of a picture that was fitted into another shape. */
  private static BufferedImage shown(BufferedImage picture) {
    if (!picture.getColorModel().hasAlpha()) {
      return picture;
    }
    int left = picture.getWidth();
    int top = picture.getHeight();
    int right = -1;
    int bottom = -1;
    for (int y = 0; y < picture.getHeight(); y++) {
      for (int x = 0; x < picture.getWidth(); x++) {
        if (picture.getRGB(x, y) >>> 24 != 0) {
          left = Math.min(left, x);
          top = Math.min(top, y);
          right = Math.max(right, x);
          bottom = Math.max(bottom, y);
        }
      }
    }
    return right < 0 ? picture : picture.getSubimage(left, top, right - left + 1, bottom - top + 1);
  }

  private static int half(int length) {
    return length > 2 * SIDE ? (length + 1) / 2 : length;
  }

  private static BufferedImage scaled(BufferedImage from, int width, int height) {
    BufferedImage to = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
    Graphics2D brush = to.createGraphics();
    brush.setRenderingHint(
        RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
    brush.drawImage(from, 0, 0, width, height, null);
    brush.dispose();
    return to;
  }

  /** 1 for the same look, 0 for one that differs as much as strangers do. */
  public double to(PictureLikeness other) {
    double sum = 0;
    for (int i = 0; i < colours.length; i++) {
      sum += Math.abs(colours[i] - other.colours[i]);
    }
    double differs = sum / colours.length / 255;
    double stretched = Math.abs(Math.log(shape / other.shape));
    return Math.max(0, 1 - 8 * differs) * Math.max(0, 1 - stretched);
  }
}
