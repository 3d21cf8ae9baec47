package dev.kavrin.core.content;

import java.util.Arrays;

/** Axis-aligned bounds in the file's own unit; {@code min} and {@code max} are x, y, z. */
public record Box(double[] min, double[] max) {
  @Override
  public boolean equals(Object other) {
    return other instanceof Box box && Arrays.equals(min, box.min) && Arrays.equals(max, box.max);
  }

  @Override
  public int hashCode() {
    return 31 * Arrays.hashCode(min) + Arrays.hashCode(max);
  }

  public double diagonal() {
    double sum = 0;
    for (int i = 0; i < 3; i++) {
      sum += (max[i] - min[i]) * (max[i] - min[i]);
    }
    return Math.sqrt(sum);
  }

  /** The smallest length that numbers of 24 binary digits (IEEE 754 binary32) tell apart here. */
  public double precision() {
    double largest = 0;
    for (int i = 0; i < 3; i++) {
      largest = Math.max(largest, Math.max(Math.abs(min[i]), Math.abs(max[i])));
    }
    return largest * 0x1p-23;
  }
}
