package dev.kavrin.core.disk;

import java.io.IOException;
import java.io.InterruptedIOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Asks one folder and waits no longer than its patience. After one call that did not return,
 * nothing more is asked of the folder until all those calls have returned.
 */
final class Answering {
  /** A single write or flush that takes longer never ends, whatever else the folder answers. */
  private static final int LONGEST = 120;

  private final Path folder;
  private final Disk disk;
  private final Duration patience;
  private final ExecutorService callers;
  private final AtomicInteger lost = new AtomicInteger();

  Answering(Path folder, Disk disk, Duration patience, ExecutorService callers) {
    this.folder = folder;
    this.disk = disk;
    this.patience = patience;
    this.callers = callers;
  }

  /** What may be asked of a disk. */
  @FunctionalInterface
  interface Ask<T> {
    T of() throws IOException;
  }

  boolean answers() {
    return lost.get() == 0;
  }

  /** For what a folder that is well does at once. */
  <T> T quickly(Ask<T> ask) throws IOException {
    return wait(begin(ask), false);
  }

  /**
   * For what may take long on a folder that is well, as a flush: waits on while the folder answers
   * at all.
   */
  <T> T patiently(Ask<T> ask) throws IOException {
    return wait(begin(ask), true);
  }

  /** Has it done when the folder answers; nobody waits for it. */
  void later(Ask<?> ask) {
    callers.execute(
        () -> {
          try {
            ask.of();
          } catch (IOException nobodyWaits) {
            // Closing what could not be read: there is nobody to tell, and nothing to lose.
          }
        });
  }

  /** Begins what {@link #finish} waits for. */
  <T> Call<T> begin(Ask<T> ask) throws IOException {
    if (!answers()) {
      throw new NotAnsweringException(folder);
    }
    Call<T> call = new Call<>(ask);
    call.future = callers.submit(call::run);
    return call;
  }

  /** Waits as {@link #patiently} does. */
  <T> T finish(Call<T> call) throws IOException {
    return wait(call, true);
  }

  private <T> T wait(Call<T> call, boolean patient) throws IOException {
    try {
      for (int turns = 0; ; turns++) {
        try {
          return call.future.get(patience.toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException slow) {
          if (!patient || turns >= LONGEST || !stillThere()) {
            call.abandon();
            throw new NotAnsweringException(folder);
          }
        }
      }
    } catch (InterruptedException stopped) {
      call.abandon();
      Thread.currentThread().interrupt();
      throw new InterruptedIOException("Stopped while waiting for " + folder);
    } catch (ExecutionException failed) {
      throw thrown(failed.getCause());
    }
  }

  private boolean stillThere() {
    try {
      quickly(() -> disk.facts(folder));
      return true;
    } catch (NotAnsweringException silent) {
      return false;
    } catch (IOException | RuntimeException answered) {
      return true;
    }
  }

  private static IOException thrown(Throwable cause) {
    if (cause instanceof IOException failed) {
      return failed;
    }
    if (cause instanceof RuntimeException failed) {
      throw failed;
    }
    if (cause instanceof Error failed) {
      throw failed;
    }
    return new IOException(cause);
  }

  /** One call, counted as lost from when nobody waits for it any more until it returns. */
  final class Call<T> {
    private final Ask<T> ask;
    private Future<T> future;
    private boolean returned;
    private boolean abandoned;

    private Call(Ask<T> ask) {
      this.ask = ask;
    }

    private T run() throws IOException {
      try {
        return ask.of();
      } finally {
        returned();
      }
    }

    private synchronized void returned() {
      returned = true;
      if (abandoned) {
        lost.decrementAndGet();
      }
    }

    private synchronized void abandon() {
      if (!returned && !abandoned) {
        abandoned = true;
        lost.incrementAndGet();
      }
    }
  }

  /** One for each folder. */
  static final class All {
    private final Map<Path, Answering> known = new ConcurrentHashMap<>();
    private final Disk disk;
    private final Duration patience;
    private final ExecutorService callers;

    All(Disk disk, Duration patience, ExecutorService callers) {
      this.disk = disk;
      this.patience = patience;
      this.callers = callers;
    }

    Answering of(Path folder) {
      return known.computeIfAbsent(folder, f -> new Answering(f, disk, patience, callers));
    }

    boolean answers(Path folder) {
      Answering one = known.get(folder);
      return one == null || one.answers();
    }
  }
}
