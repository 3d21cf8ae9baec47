package dev.kavrin.core.compare;

import dev.kavrin.core.content.Inventory;
import jakarta.annotation.Nullable;

/**
 * How far two states may differ and still count as the same.
 *
 * @param length in the files' own unit
 */
public record Tolerance(double length) {
  /** Sums over many numbers lose a few of their last digits. */
  private static final double SUMS = 1e-5;

  public Tolerance {
    if (!(length >= 0)) {
      throw new IllegalArgumentException("A tolerance is no less than zero, not " + length);
    }
  }

  /** What the coarser of two files can tell apart, so that saving one again changes nothing. */
  public static Tolerance of(Inventory a, Inventory b) {
    return new Tolerance(2 * Math.max(precision(a.precision()), precision(b.precision())));
  }

  private static double precision(@Nullable Double told) {
    return told == null ? 0 : told;
  }

  /** True for two lengths that count as one. */
  boolean same(double a, double b) {
    return Math.abs(a - b) <= length;
  }

  /**
   * True for two sums over a body, such as its area, that count as one.
   *
   * @param extent of that body
   */
  boolean same(double a, double b, double extent) {
    double share = extent == 0 ? SUMS : Math.max(SUMS, 16 * length / extent);
    return Math.abs(a - b) <= share * Math.max(Math.abs(a), Math.abs(b));
  }
}
