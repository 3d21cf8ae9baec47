package dev.kavrin.core.plan;

import dev.kavrin.core.keep.BinLimit;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;

/** Dropped copies as they wait in the bin, on a device that is large enough. */
final class SimulatedBin {
  private final boolean held;

  private record Dropped(Instant at, long bytes) {}

  private final Deque<Dropped> waiting = new ArrayDeque<>();
  private long total;

  /**
   * @param held true if the plan limits the room
   */
  SimulatedBin(boolean held) {
    this.held = held;
  }

  void take(Instant at, long bytes) {
    waiting.add(new Dropped(at, bytes));
    total += bytes;
  }

  /**
   * Bytes that wait at a moment.
   *
   * @param kept bytes of all copies that stand
   */
  long at(Instant now, long kept) {
    Instant oldest = now.minus(BinLimit.TIME);
    long limit = BinLimit.of(kept, held);
    while (!waiting.isEmpty() && (total > limit || waiting.peek().at().isBefore(oldest))) {
      total -= waiting.poll().bytes();
    }
    return total;
  }
}
