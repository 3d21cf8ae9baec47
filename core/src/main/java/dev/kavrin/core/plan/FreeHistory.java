package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;

/** How the free room of one disk changed of late, whoever writes there. */
public final class FreeHistory {
  /** So far back it is looked at. */
  public static final Duration BACK = Duration.ofDays(1);

  /** Shorter than that, one big file would pass for a habit (own rule, no source). */
  private static final Duration ENOUGH = Duration.ofHours(1);

  /** Time enough to free something before it is full (own rule, no source). */
  private static final Duration SOON = Duration.ofDays(1);

  /** Under so much a heavy file's next save may fail (own rule, no source). */
  private static final long LITTLE = 1_000_000_000;

  private final Deque<Seen> seen = new ArrayDeque<>();

  private record Seen(Instant at, long free) {}

  /** The disk had so many bytes free; what is older than a day is forgotten. */
  public synchronized void note(Instant at, long free) {
    seen.addLast(new Seen(at, free));
    while (seen.getFirst().at().isBefore(at.minus(BACK))) {
      seen.removeFirst();
    }
  }

  /** What it lost; empty before an hour was seen. */
  public synchronized Optional<Growth> growth() {
    if (seen.isEmpty()) {
      return Optional.empty();
    }
    Seen first = seen.getFirst();
    Seen last = seen.getLast();
    Duration time = Duration.between(first.at(), last.at());
    return time.compareTo(ENOUGH) < 0
        ? Optional.empty()
        : Optional.of(new Growth(first.free() - last.free(), time));
  }

  /**
   * That the disk is nearly full, or will be within a day.
   *
   * @param free bytes at the last look
   * @param fullAt when it is full if that goes on, null if nothing tells
   */
  public record Filling(long free, @Nullable Instant fullAt) {}

  /** Empty while there is no need to say anything. */
  public synchronized Optional<Filling> filling(Instant now) {
    if (seen.isEmpty()) {
      return Optional.empty();
    }
    long free = seen.getLast().free();
    Instant fullAt = growth().flatMap(g -> g.usedUp(free, now)).orElse(null);
    boolean soon = fullAt != null && fullAt.isBefore(now.plus(SOON));
    return soon || free < LITTLE ? Optional.of(new Filling(free, fullAt)) : Optional.empty();
  }
}
