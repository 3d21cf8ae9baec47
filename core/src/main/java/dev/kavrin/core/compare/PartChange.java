package dev.kavrin.core.compare;

import jakarta.annotation.Nullable;
import java.util.Map;

/**
 * One part of A against the one of B that matches it.
 *
 * @param a id in A, null if added
 * @param b id in B, null if removed
 * @param numbers by name: value in A, value in B
 * @param shift how far vertices moved, null where that cannot be told
 * @param words the difference in a few words
 */
public record PartChange(
    Outcome outcome,
    @Nullable String a,
    @Nullable String b,
    String label,
    String kind,
    Map<String, Pair> numbers,
    @Nullable Shift shift,
    String words) {

  /** The same in one of several files that belong together. */
  PartChange under(String role) {
    return new PartChange(
        outcome,
        a == null ? null : role + "/" + a,
        b == null ? null : role + "/" + b,
        label,
        kind,
        numbers,
        shift,
        words);
  }

  /** A number before and after; either may be absent. */
  public record Pair(@Nullable Double a, @Nullable Double b, String unit) {}

  /** Distances of matching vertices in world space, metres. */
  public record Shift(double largest, double rootMeanSquare) {}
}
