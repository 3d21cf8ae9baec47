package dev.kavrin.core.lane;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;

/** Does the same with many things, several at once, begun in their order. */
public final class Several {
  /** What is done with each. */
  @FunctionalInterface
  public interface Doing<T> {
    void to(T thing) throws IOException;
  }

  private Several() {}

  /**
   * Returns once all are done, or once those under way have ended after one failed. One at a time
   * is done by the caller's own thread.
   *
   * @param atOnce at least one
   * @throws IOException the first failure; nothing was begun after it
   */
  public static <T> void each(int atOnce, List<T> things, Doing<? super T> doing)
      throws IOException {
    AtomicInteger next = new AtomicInteger();
    AtomicReference<Throwable> failure = new AtomicReference<>();
    Runnable turns =
        () -> {
          for (int i = next.getAndIncrement(); i < things.size(); i = next.getAndIncrement()) {
            try {
              doing.to(things.get(i));
            } catch (IOException | RuntimeException | Error failed) {
              failure.compareAndSet(null, failed);
              next.set(things.size());
            }
          }
        };
    List<Thread> helpers = new ArrayList<>();
    for (int n = 1; n < Math.min(atOnce, things.size()); n++) {
      Thread helper = new Thread(turns, Thread.currentThread().getName() + "-" + n);
      helper.setDaemon(true);
      helpers.add(helper);
      helper.start();
    }
    turns.run();
    helpers.forEach(Several::ended);
    rethrow(failure.get());
  }

  /** What was begun is waited for whatever happens: it must not go on behind its caller's back. */
  private static void ended(Thread helper) {
    boolean interrupted = false;
    while (helper.isAlive()) {
      try {
        helper.join();
      } catch (InterruptedException asked) {
        interrupted = true;
      }
    }
    if (interrupted) {
      Thread.currentThread().interrupt();
    }
  }

  private static void rethrow(Throwable failure) throws IOException {
    if (failure instanceof IOException broken) {
      throw broken;
    }
    if (failure instanceof RuntimeException fault) {
      throw fault;
    }
    if (failure instanceof Error end) {
      throw end;
    }
  }
}
