package dev.kavrin.server.job;

import java.util.concurrent.TimeUnit;

/**
 * Counts jobs that ended, for who waits for one: none can be missed between looking and waiting.
 */
final class Endings {
  private long count;

  synchronized long count() {
    return count;
  }

  synchronized void one() {
    count++;
    notifyAll();
  }

  /**
   * @param until by {@link System#nanoTime}
   * @return false if none ended by then
   */
  synchronized boolean waitForAnother(long seen, long until) {
    try {
      for (long left = until - System.nanoTime(); count == seen && left > 0; ) {
        wait(Math.max(1, TimeUnit.NANOSECONDS.toMillis(left)));
        left = until - System.nanoTime();
      }
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      return false;
    }
    return count != seen;
  }
}
