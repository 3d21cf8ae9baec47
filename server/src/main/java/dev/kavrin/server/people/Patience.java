package dev.kavrin.server.people;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Optional;

/**
 * How long somebody who guessed wrong waits: nothing for the first few, then twice as long each
 * time, up to a quarter of an hour.
 */
final class Patience {
  private static final Duration FIRST = Duration.ofSeconds(2);
  static final Duration MOST = Duration.ofMinutes(15);

  private record Wrong(int times, Instant last) {}

  private final Cache<String, Wrong> wrong =
      Caffeine.newBuilder().expireAfterWrite(Duration.ofHours(24)).maximumSize(100_000).build();
  private final int free;
  private final InstantSource clock;

  /**
   * @param free tries that cost nothing
   */
  Patience(int free, InstantSource clock) {
    this.free = free;
    this.clock = clock;
  }

  /** What is left to wait; empty if another try is taken now. */
  Optional<Duration> left(String who) {
    Wrong before = wrong.getIfPresent(who);
    if (before == null || before.times() < free) {
      return Optional.empty();
    }
    Duration left = Duration.between(clock.instant(), before.last().plus(pause(before.times())));
    return left.compareTo(Duration.ZERO) > 0 ? Optional.of(left) : Optional.empty();
  }

  private Duration pause(int times) {
    int doubled = Math.min(times - free, 20);
    Duration pause = FIRST.multipliedBy(1L << doubled);
    return pause.compareTo(MOST) < 0 ? pause : MOST;
  }

  void wrong(String who) {
    wrong
        .asMap()
        .compute(
            who,
            (w, before) -> new Wrong(before == null ? 1 : before.times() + 1, clock.instant()));
  }

  void right(String who) {
    wrong.invalidate(who);
  }
}
