package dev.kavrin.e2e;

import java.time.Duration;

/** How long a test waits for what must come: longer than the busiest machine needs. */
final class Patience {
  static final Duration LONG = Duration.ofMinutes(4);

  private Patience() {}
}
