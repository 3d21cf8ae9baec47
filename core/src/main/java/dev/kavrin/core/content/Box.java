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
}
