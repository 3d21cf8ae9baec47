package dev.kavrin.server.backup;

import java.time.Duration;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;

/** One thread that works in turns, woken by others; some of them wait for a whole turn. */
final class Turns {
  private final ReentrantLock lock = new ReentrantLock();
  private final Condition asked = lock.newCondition();
  private final Condition ended = lock.newCondition();
  private boolean awake = true;
  private boolean over;
  private long begun;
  private long finished;

  /** For who works: returns when a turn is due; false if there will be none. */
  boolean next(Duration atTheLatest) {
    lock.lock();
    try {
      long left = atTheLatest.toNanos();
      while (!awake && !over && left > 0) {
        left = asked.awaitNanos(left);
      }
      awake = false;
      begun++;
      return !over;
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      return false;
    } finally {
      lock.unlock();
    }
  }

  void done() {
    lock.lock();
    try {
      finished = begun;
      ended.signalAll();
    } finally {
      lock.unlock();
    }
  }

  void wake() {
    lock.lock();
    try {
      awake = true;
      asked.signal();
    } finally {
      lock.unlock();
    }
  }

  void end() {
    lock.lock();
    try {
      over = true;
      asked.signal();
      ended.signalAll();
    } finally {
      lock.unlock();
    }
  }

  /** True once a turn that began after this call is done; false if that takes too long. */
  boolean waitForOne(Duration atMost) {
    lock.lock();
    try {
      long wanted = begun + 1;
      awake = true;
      asked.signal();
      long left = TimeUnit.MILLISECONDS.toNanos(atMost.toMillis());
      while (finished < wanted && !over && left > 0) {
        left = ended.awaitNanos(left);
      }
      return finished >= wanted;
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      return false;
    } finally {
      lock.unlock();
    }
  }
}
