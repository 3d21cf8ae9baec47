package dev.kavrin.demo;

import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;

/** A clock that moves only when told to. */
final class SimClock implements InstantSource {
  private Instant now;

  SimClock(Instant start) {
    now = start;
  }

  void advance(Duration by) {
    now = now.plus(by);
  }

  void jumpTo(Instant then) {
    now = then;
  }

  @Override
  public Instant instant() {
    return now;
  }
}
