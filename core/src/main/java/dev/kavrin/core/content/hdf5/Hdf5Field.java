package dev.kavrin.core.content.hdf5;

import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Slice;
import dev.kavrin.core.content.field.FieldSums;
import io.jhdf.api.Dataset;
import java.lang.reflect.Array;
import java.util.Map;

/** A field read in slices of bounded size. */
final class Hdf5Field {
  private static final long SLICE = 500_000;

  private final Dataset dataset;
  private final FieldSums sums;

  private Hdf5Field(Dataset dataset, FieldSums sums) {
    this.dataset = dataset;
    this.sums = sums;
  }

  /**
   * Reads it to its end.
   *
   * @param sums told of each number
   */
  static Hdf5Field of(Dataset dataset, FieldSums sums) {
    Hdf5Field field = new Hdf5Field(dataset, sums);
    if (!dataset.isEmpty()) {
      field.read();
    }
    return field;
  }

  private void read() {
    int[] dimensions = dataset.getDimensions();
    boolean small = dataset.isScalar() || dimensions.length == 0 || dataset.getSize() <= SLICE;
    if (small || dataset.isCompound() || dataset.isVariableLength()) {
      take(dataset.getData());
      return;
    }
    long row = Math.max(1, dataset.getSize() / dimensions[0]);
    int rows = (int) Math.max(1, SLICE / row);
    for (int from = 0; from < dimensions[0]; from += rows) {
      int[] shape = dimensions.clone();
      shape[0] = Math.min(rows, dimensions[0] - from);
      long[] offset = new long[dimensions.length];
      offset[0] = from;
      take(dataset.getData(offset, shape));
    }
  }

  private void take(Object data) {
    if (data instanceof double[] values) {
      for (double value : values) {
        sums.number(value);
      }
    } else if (data instanceof float[] values) {
      for (float value : values) {
        sums.number(value);
      }
    } else if (data != null && data.getClass().isArray()) {
      for (int i = 0; i < Array.getLength(data); i++) {
        take(Array.get(data, i));
      }
    } else if (data instanceof Number value) {
      sums.number(value.doubleValue());
    } else {
      sums.words(String.valueOf(data));
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

  FieldSums sums() {
    return sums;
  }

  Map<String, Measure> measures() {
    return sums.measures(dataset.getSize(), unit(dataset));
  }
}
