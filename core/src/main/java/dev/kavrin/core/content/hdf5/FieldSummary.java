package dev.kavrin.core.content.hdf5;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Slice;
import io.jhdf.api.Dataset;
import java.lang.reflect.Array;
import java.nio.ByteBuffer;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * A field in a few figures, read in slices of bounded size.
 *
 * @param count values it has
 * @param notNumbers values that are not-a-number or infinite
 * @param exact digest over all values
 */
record FieldSummary(
    long count, long notNumbers, double min, double max, double mean, String unit, String exact) {
  private static final long SLICE = 500_000;

  static FieldSummary of(Dataset dataset) {
    Sums sums = new Sums();
    if (!dataset.isEmpty()) {
      read(dataset, sums);
    }
    return sums.summary(dataset.getSize(), unit(dataset));
  }

  private static void read(Dataset dataset, Sums sums) {
    int[] dimensions = dataset.getDimensions();
    boolean small = dataset.isScalar() || dimensions.length == 0 || dataset.getSize() <= SLICE;
    if (small || dataset.isCompound() || dataset.isVariableLength()) {
      sums.take(dataset.getData());
      return;
    }
    long row = Math.max(1, dataset.getSize() / dimensions[0]);
    int rows = (int) Math.max(1, SLICE / row);
    for (int from = 0; from < dimensions[0]; from += rows) {
      int[] shape = dimensions.clone();
      shape[0] = Math.min(rows, dimensions[0] - from);
      long[] offset = new long[dimensions.length];
      offset[0] = from;
      sums.take(dataset.getData(offset, shape));
    }
  }

  /** A field of two dimensions as it stands. */
  static Slice plane(Dataset dataset) {
    int[] dimensions = dataset.getDimensions();
    double[] values = new double[dimensions[0] * dimensions[1]];
    Object rows = dataset.getData();
    for (int row = 0; row < dimensions[0]; row++) {
      Object numbers = Array.get(rows, row);
      for (int column = 0; column < dimensions[1]; column++) {
        values[row * dimensions[1] + column] = Array.getDouble(numbers, column);
      }
    }
    return new Slice(dataset.getName(), unit(dataset), dimensions[0], dimensions[1], values);
  }

  private static String unit(Dataset dataset) {
    var told = dataset.getAttribute("unit");
    return told != null && told.getData() instanceof String text ? text : "";
  }

  /** The largest number in it, whatever its sign. */
  double largest() {
    return Math.max(Math.abs(min), Math.abs(max));
  }

  /** Common practice, no source: beyond that no quantity in SI units makes sense. */
  boolean runsAway() {
    return count > notNumbers && largest() > 1e30;
  }

  Map<String, Measure> measures() {
    Map<String, Measure> measures = new LinkedHashMap<>();
    measures.put("count", new Measure(count, ""));
    if (count > notNumbers && !Double.isNaN(mean)) {
      measures.put("min", new Measure(min, unit));
      measures.put("max", new Measure(max, unit));
      measures.put("mean", new Measure(mean, unit));
    }
    return measures;
  }

  private static final class Sums {
    private final ContentHash hash = new ContentHash();
    private final ByteBuffer bytes = ByteBuffer.allocate(8);
    private long numbers;
    private long notNumbers;
    private double min = Double.POSITIVE_INFINITY;
    private double max = Double.NEGATIVE_INFINITY;
    private double sum;

    void take(Object data) {
      if (data instanceof double[] values) {
        for (double value : values) {
          number(value);
        }
      } else if (data instanceof float[] values) {
        for (float value : values) {
          number(value);
        }
      } else if (data != null && data.getClass().isArray()) {
        for (int i = 0; i < Array.getLength(data); i++) {
          take(Array.get(data, i));
        }
      } else if (data instanceof Number value) {
        number(value.doubleValue());
      } else {
        hash.add(String.valueOf(data).getBytes(java.nio.charset.StandardCharsets.UTF_8));
      }
    }

    private void number(double value) {
      hash.add(bytes.putDouble(0, value == 0 ? 0.0 : value).array());
      if (Double.isFinite(value)) {
        numbers++;
        min = Math.min(min, value);
        max = Math.max(max, value);
        sum += value;
      } else {
        notNumbers++;
      }
    }

    FieldSummary summary(long count, String unit) {
      double mean = numbers == 0 ? Double.NaN : sum / numbers;
      return new FieldSummary(count, notNumbers, min, max, mean, unit, hash.id().digest());
    }
  }
}
