package dev.kavrin.core.picture;

import dev.kavrin.core.content.Lines;
import jakarta.annotation.Nullable;

/** Line work on the whole sheet, each layer in its own shade. */
final class DrawingPicture {
  private static final int[] SHADES = {
    0xFF2B3A42, 0xFF5A4632, 0xFF2F5D50, 0xFF6B3A3A, 0xFF43506B, 0xFF5F5F2F
  };

  private DrawingPicture() {}

  /** Null if nothing is drawn. */
  @Nullable
  static Canvas draw(Lines lines, Frame frame) {
    double[] low = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
    double[] high = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
    lines.each(
        (layer, x1, y1, x2, y2) -> {
          low[0] = Math.min(low[0], Math.min(x1, x2));
          low[1] = Math.min(low[1], Math.min(y1, y2));
          high[0] = Math.max(high[0], Math.max(x1, x2));
          high[1] = Math.max(high[1], Math.max(y1, y2));
        });
    if (low[0] > high[0]) {
      return null;
    }
    int width = frame.width();
    int height = frame.height();
    Canvas canvas = new Canvas(width, height);
    double scale = ModelPicture.scale(low, high, width, height);
    double centreX = (low[0] + high[0]) / 2;
    double centreY = (low[1] + high[1]) / 2;
    lines.each(
        (layer, x1, y1, x2, y2) ->
            canvas.line(
                width / 2.0 + (x1 - centreX) * scale,
                height / 2.0 - (y1 - centreY) * scale,
                width / 2.0 + (x2 - centreX) * scale,
                height / 2.0 - (y2 - centreY) * scale,
                shade(layer, frame)));
    return canvas;
  }

  private static int shade(String layer, Frame frame) {
    int shade = SHADES[Math.floorMod(layer.hashCode(), SHADES.length)];
    return frame.isFaint(layer) ? Canvas.faint(shade) : shade;
  }
}
