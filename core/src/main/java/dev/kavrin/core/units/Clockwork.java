package dev.kavrin.core.units;

import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;

/** The time of day for records, and a steady time for waiting that nobody can set. */
public interface Clockwork extends InstantSource {
  /** Rises while the machine is awake and never jumps; only differences mean something. */
  Duration running();

  static Clockwork system() {
    return new Clockwork() {
      @Override
      public Instant instant() {
        return Instant.now();
      }

      @Override
      public Duration running() {
        return Duration.ofNanos(System.nanoTime());
      }
    };
  }

  /** For a simulated time of day that is never set back: both run alike. */
  static Clockwork steady(InstantSource clock) {
    return new Clockwork() {
      @Override
      public Instant instant() {
        return clock.instant();
      }

      @Override
      public Duration running() {
        return Duration.between(Instant.EPOCH, clock.instant());
      }
    };
  }
}
