package dev.kavrin.core.recoverytest;

import dev.kavrin.core.units.Clockwork;
import java.time.Duration;
import java.time.Instant;

/** A clock that goes on as fast as it is asked to. */
final class SimulatedClock implements Clockwork {
  private Instant now;
  private Duration running = Duration.ofHours(1);

  SimulatedClock(Instant now) {
    this.now = now;
  }

  @Override
  public Instant instant() {
    return now;
  }

  @Override
  public Duration running() {
    return running;
  }

  void pass(Duration time) {
    now = now.plus(time);
    running = running.plus(time);
  }
}
