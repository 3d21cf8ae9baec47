package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Readings;
import jakarta.annotation.Nullable;

/** Counts and bounds points while they go by. */
final class PointTally {
  private final double[] low = {
    Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY
  };
  private final double[] high = {
    Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY
  };
  private long points;
  private long odd;

  void point(double x, double y, double z) {
    points++;
    if (!Double.isFinite(x) || !Double.isFinite(y) || !Double.isFinite(z)) {
      odd++;
      return;
    }
    widen(0, x);
    widen(1, y);
    widen(2, z);
  }

  private void widen(int axis, double value) {
    low[axis] = Math.min(low[axis], value);
    high[axis] = Math.max(high[axis], value);
  }

  long points() {
    return points;
  }

  @Nullable
  Box box() {
    return points == odd ? null : new Box(low, high);
  }

  /**
   * The smallest length the file's numbers tell apart.
   *
   * @param decimals digits behind the point of its longest number, −1 for binary numbers
   */
  double precision(int decimals) {
    Box box = box();
    return box == null
        ? 0
        : Math.max(box.precision(), decimals < 0 ? 0 : Math.pow(10, -decimals) / 2);
  }

  void faults(Readings readings) {
    if (odd > 0) {
      readings.found(Finding.doubtful("not-a-number", -1, odd + " of its points are no numbers."));
    }
  }
}
