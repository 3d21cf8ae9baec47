package dev.kavrin.core.units;

import java.time.Duration;
import java.time.Instant;

/**
 * A moment known only to lie between two instants, both included.
 *
 * @param lo earliest possible
 * @param hi latest possible, not before {@code lo}
 */
public record Span(Instant lo, Instant hi) {
  public Span {
    if (hi.isBefore(lo)) {
      throw new IllegalArgumentException("Span ends before it starts: " + lo + " to " + hi);
    }
  }

  public static Span at(Instant instant) {
    return new Span(instant, instant);
  }

  public Duration width() {
    return Duration.between(lo, hi);
  }
}
