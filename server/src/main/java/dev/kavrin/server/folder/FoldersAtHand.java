package dev.kavrin.server.folder;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * The recorded folders, few and asked for all the time, as they were read at most a second ago. Who
 * writes in the same transaction reads what was written.
 */
final class FoldersAtHand {
  private static final long FRESH_NANOS = Duration.ofSeconds(1).toNanos();

  private final Supplier<List<Folder>> reading;
  private final AtomicLong writes = new AtomicLong();
  @Nullable private volatile Read known;

  /**
   * @param writes how many there had been when it was begun
   */
  private record Read(List<Folder> folders, long at, long writes) {
    boolean holds(long now) {
      return writes == now && System.nanoTime() - at < FRESH_NANOS;
    }
  }

  FoldersAtHand(Supplier<List<Folder>> reading) {
    this.reading = reading;
  }

  List<Folder> get() {
    boolean writing =
        TransactionSynchronizationManager.isActualTransactionActive()
            && !TransactionSynchronizationManager.isCurrentTransactionReadOnly();
    if (writing) {
      return reading.get();
    }
    Read before = known;
    long now = writes.get();
    if (before != null && before.holds(now)) {
      return before.folders();
    }
    long began = System.nanoTime();
    Read fresh = new Read(reading.get(), began, now);
    known = fresh;
    return fresh.folders();
  }

  /** Called where one was written: once that stands, it is read anew. */
  void changed() {
    writes.incrementAndGet();
    if (TransactionSynchronizationManager.isSynchronizationActive()) {
      TransactionSynchronizationManager.registerSynchronization(
          new TransactionSynchronization() {
            @Override
            public void afterCompletion(int status) {
              writes.incrementAndGet();
            }
          });
    }
  }
}
