package dev.kavrin.core.plan;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * How fast copies fill a device.
 *
 * @param bytes copies made within the time
 * @param time looked at, positive
 */
public record Growth(long bytes, Duration time) {
  /** Beyond that, nothing tells that it goes on as it does now. */
  private static final Duration FORESEEN = Duration.ofDays(30);

  /** When so many bytes are used up, if it goes on like this; empty if not within 30 days. */
  public Optional<Instant> usedUp(long free, Instant now) {
    if (bytes <= 0) {
      return Optional.empty();
    }
    double seconds = (double) Math.max(free, 0) / bytes * time.toSeconds();
    return seconds > FORESEEN.toSeconds()
        ? Optional.empty()
        : Optional.of(now.plusSeconds((long) seconds));
  }
}
