package dev.kavrin.core.content;

/** Axis-aligned bounds in the file's own unit; {@code min} and {@code max} are x, y, z. */
public record Box(double[] min, double[] max) {
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
