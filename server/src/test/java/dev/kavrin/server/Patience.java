package dev.kavrin.server;

import java.time.Duration;

/** How long a test waits for what must come: longer than the busiest machine needs. */
public final class Patience {
  public static final Duration LONG = Duration.ofMinutes(4);

  private Patience() {}
}
