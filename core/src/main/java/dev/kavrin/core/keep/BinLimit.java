package dev.kavrin.core.keep;

import java.time.Duration;

/** How much dropped copies may take before the oldest of them go for good (own rule, no source). */
public final class BinLimit {
  /** How long a dropped copy can be had back, unless its room is needed before. */
  public static final Duration TIME = Duration.ofDays(14);

  private static final int OF_KEPT = 4;
  private static final int OF_DEVICE = 20;

  /** So much nobody misses, and few copies of small files are worth more than it. */
  private static final long LITTLE = 100_000_000;

  private BinLimit() {}

  /**
   * A quarter of what is kept, a twentieth of the device at most.
   *
   * @param kept bytes
   * @param device bytes it holds in all
   * @param held true if a plan limits the room: then a little is no more than a quarter either
   */
  public static long of(long kept, long device, boolean held) {
    return Math.min(of(kept, held), device / OF_DEVICE);
  }

  /** The same where the device is large enough. */
  public static long of(long kept, boolean held) {
    return held ? kept / OF_KEPT : Math.max(kept / OF_KEPT, LITTLE);
  }

  /** What may be kept so that it fits into some room together with the bin. */
  public static long keptWithin(long room) {
    return room / (OF_KEPT + 1) * OF_KEPT;
  }
}
