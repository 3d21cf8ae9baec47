package dev.kavrin.core.picture;

import dev.kavrin.core.content.Slice;

/** Numbers on a grid as shades from dark to light; what is no number is told apart. */
final class FieldPicture {
  /** From low to high, told apart by lightness alone too. */
  private static final int[] RAMP = {0x16283A, 0x2E4F66, 0x6B7F72, 0xB79F5B, 0xF3DE9A};

  private static final int NO_NUMBER = 0xFFB3261E;

  private FieldPicture() {}

  static Canvas draw(Slice slice, int width, int height) {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (double value : slice.values()) {
      if (Double.isFinite(value)) {
        low = Math.min(low, value);
        high = Math.max(high, value);
      }
    }
    Canvas canvas = new Canvas(width, height);
    double cell = Math.min((double) width / slice.columns(), (double) height / slice.rows());
    int across = (int) Math.max(1, Math.floor(cell * slice.columns()));
    int along = (int) Math.max(1, Math.floor(cell * slice.rows()));
    for (int y = 0; y < along; y++) {
      for (int x = 0; x < across; x++) {
        int row = (int) Math.min(slice.rows() - 1, (long) y * slice.rows() / along);
        int column = (int) Math.min(slice.columns() - 1, (long) x * slice.columns() / across);
        double value = slice.values()[row * slice.columns() + column];
        canvas.put((width - across) / 2 + x, (height - along) / 2 + y, shade(value, low, high));
      }
    }
    return canvas;
  }

  private static int shade(double value, double low, double high) {
    if (!Double.isFinite(value)) {
      return NO_NUMBER;
    }
    double t = high > low ? (value - low) / (high - low) * (RAMP.length - 1) : 0;
    int step = (int) Math.min(RAMP.length - 2, Math.floor(t));
    int shade = 0xFF;
    for (int shift = 16; shift >= 0; shift -= 8) {
      double from = RAMP[step] >> shift & 0xFF;
      double to = RAMP[step + 1] >> shift & 0xFF;
      shade = shade << 8 | (int) Math.round(from + (to - from) * (t - step));
    }
    return shade;
  }
}
