package dev.kavrin.core.picture;

import dev.kavrin.core.content.Lines;
import dev.kavrin.core.picture.ModelPicture.View;
import jakarta.annotation.Nullable;
import java.util.Optional;

/** Line work on the whole sheet, each layer in its own shade. */
final class DrawingPicture {
  private static final int[] SHADES = {
    0xFF2B3A42, 0xFF5A4632, 0xFF2F5D50, 0xFF6B3A3A, 0xFF43506B, 0xFF5F5F2F
  };

  private DrawingPicture() {}

  /** Null if nothing is drawn. */
  @Nullable
  static Canvas draw(Lines lines, Frame frame) {
    View view = view(lines, frame).orElse(null);
    if (view == null) {
      return null;
    }
    double midX = frame.width() / 2.0;
    double midY = frame.height() / 2.0;
    Canvas canvas = new Canvas(frame.width(), frame.height());
    lines.each(
        (layer, x1, y1, x2, y2) ->
            canvas.line(
                midX + (x1 - view.centreX()) * view.scale(),
                midY - (y1 - view.centreY()) * view.scale(),
                midX + (x2 - view.centreX()) * view.scale(),
                midY - (y2 - view.centreY()) * view.scale(),
                shade(layer, frame)));
    return canvas;
  }

  /** So that the whole sheet is seen; empty if nothing is drawn. */
  static Optional<View> view(Lines lines, Frame frame) {
    double[] low = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
    double[] high = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
    lines.each(
        (layer, x1, y1, x2, y2) -> {
          low[0] = Math.min(low[0], Math.min(x1, x2));
          low[1] = Math.min(low[1], Math.min(y1, y2));
          high[0] = Math.max(high[0], Math.max(x1, x2));
          high[1] = Math.max(high[1], Math.max(y1, y2));
        });
    return low[0] > high[0] ? Optional.empty() : Optional.of(View.of(low, high, frame));
  }

  private static int shade(String layer, Frame frame) {
    int shade = SHADES[Math.floorMod(layer.hashCode(), SHADES.length)];
    return frame.isFaint(layer) ? Canvas.faint(shade) : shade;
  }
}
