package dev.kavrin.core.disk;

import java.time.Duration;

/**
 * Holds a stream of bytes to a rate. Pure but for what passed so far: it says how long to wait, and
 * the caller waits. Safe for several threads.
 */
final class Throttle {
  /** As much may come at once, so that small files are not slowed down. */
  private static final Duration BURST = Duration.ofMillis(200);

  private final long bytesPerSecond;
  private Duration paidUntil = Duration.ZERO;

  /**
   * @param bytesPerSecond above zero
   */
  Throttle(long bytesPerSecond) {
    this.bytesPerSecond = bytesPerSecond;
  }

  long bytesPerSecond() {
    return bytesPerSecond;
  }

  /** How long to wait, at that moment of a steady clock, after so many bytes have passed. */
  synchronized Duration after(long bytes, Duration now) {
    Duration start = paidUntil.compareTo(now) > 0 ? paidUntil : now;
    paidUntil = start.plusNanos((long) (bytes * 1e9 / bytesPerSecond));
    Duration wait = paidUntil.minus(now).minus(BURST);
    return wait.isNegative() ? Duration.ZERO : wait;
  }
}
