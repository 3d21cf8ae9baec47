package dev.kavrin.core.units;

import java.time.Instant;
import java.util.concurrent.TimeUnit;

/** File times are kept as nanoseconds since 1970 in a {@code long}; this turns them about. */
public final class Moments {
  private Moments() {}

  public static Instant ofNanos(long nanos) {
    return Instant.ofEpochSecond(0, nanos);
  }

  public static long nanos(Instant instant) {
    return TimeUnit.SECONDS.toNanos(instant.getEpochSecond()) + instant.getNano();
  }
}
