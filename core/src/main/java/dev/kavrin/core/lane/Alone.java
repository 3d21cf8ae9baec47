package dev.kavrin.core.lane;

import java.io.IOException;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.ReentrantLock;

/** For each of many things, one who does something to it at a time. */
public final class Alone {
  private final Map<UUID, ReentrantLock> locks = new ConcurrentHashMap<>();

  /** Something that is done alone. */
  @FunctionalInterface
  public interface Doing<T> {
    T make() throws IOException;
  }

  /** The same for what comes to nothing. */
  public void run(UUID thing, Lanes.Work work) throws IOException {
    with(
        thing,
        () -> {
          work.run();
          return null;
        });
  }

  /** Waits for its turn; who has it may ask again. */
  public <T> T with(UUID thing, Doing<T> doing) throws IOException {
    ReentrantLock lock = locks.computeIfAbsent(thing, t -> new ReentrantLock());
    lock.lock();
    try {
      return doing.make();
    } finally {
      lock.unlock();
    }
  }
}
