package dev.kavrin.server.restore;

import dev.kavrin.server.platform.ProblemException;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Collection;
import java.util.Deque;
import java.util.Map;
import java.util.TreeSet;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.ReentrantLock;
import org.springframework.stereotype.Component;

/** One restore at a time for a document. */
@Component
class DocumentLocks {
  private final Map<UUID, ReentrantLock> locks = new ConcurrentHashMap<>();

  /** What is done while they are held. */
  interface Work<T> {
    T run() throws IOException;
  }

  /**
   * @throws ProblemException one of them is being restored already
   */
  <T> T locked(Collection<UUID> documents, Work<T> work) throws IOException {
    Deque<ReentrantLock> held = new ArrayDeque<>();
    try {
      for (UUID document : new TreeSet<>(documents)) {
        ReentrantLock lock = locks.computeIfAbsent(document, k -> new ReentrantLock());
        if (!lock.tryLock()) {
          throw ProblemException.conflict(
              "busy", "This document is being restored already. Nothing was touched now.");
        }
        held.push(lock);
      }
      return work.run();
    } finally {
      held.forEach(ReentrantLock::unlock);
    }
  }
}
