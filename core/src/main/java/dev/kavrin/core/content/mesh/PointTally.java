package dev.kavrin.core.content.mesh;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.ContentReader.Reading;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import java.util.LinkedHashMap;
import java.util.Map;

/** Counts and bounds points while they go by, and hashes what they were read from. */
final class PointTally {
  private final double[] low = {
    Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY
  };
  private final double[] high = {
    Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY
  };
  private final ContentHash hash = new ContentHash();
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

  /** False if one of the words is no number. */
  boolean point(String x, String y, String z) {
    try {
      point(Double.parseDouble(x), Double.parseDouble(y), Double.parseDouble(z));
      return true;
    } catch (NumberFormatException noNumber) {
      return false;
    }
  }

  private void widen(int axis, double value) {
    low[axis] = Math.min(low[axis], value);
    high[axis] = Math.max(high[axis], value);
  }

  void hash(byte[] bytes, int count) {
    hash.add(bytes, 0, count);
  }

  void hash(byte[] bytes) {
    hash.add(bytes);
  }

  long points() {
    return points;
  }

  /** The surface as one part, and that some points are no numbers. */
  Reading into(Readings readings, long faces) {
    if (odd > 0) {
      readings.found(Finding.doubtful("not-a-number", -1, odd + " of its points are no numbers."));
    }
    Map<String, Measure> measures = new LinkedHashMap<>();
    measures.put("vertices", new Measure(points, ""));
    measures.put("faces", new Measure(faces, ""));
    return readings
        .part(
            new Part(
                "surface",
                null,
                "surface",
                "mesh",
                measures,
                points == odd ? null : new Box(low, high),
                hash.id().digest(),
                null,
                null,
                true))
        .done();
  }
}
