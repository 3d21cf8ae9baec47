package dev.kavrin.core.compare;

import java.io.IOException;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;

/** Does the same with both sides of a comparison, each on a processor of its own. */
final class AtOnce {
  private AtOnce() {}

  record Both<T>(T a, T b) {}

  /**
   * Waits for both.
   *
   * @throws IOException one of them failed
   */
  static <T> Both<T> of(Callable<T> a, Callable<T> b) throws IOException {
    FutureTask<T> beside = new FutureTask<>(a);
    Thread thread = new Thread(beside, "side-a");
    thread.setDaemon(true);
    thread.start();
    FutureTask<T> here = new FutureTask<>(b);
    here.run();
    return new Both<>(result(beside), result(here));
  }

  private static <T> T result(FutureTask<T> task) throws IOException {
    try {
      return task.get();
    } catch (ExecutionException failed) {
      if (failed.getCause() instanceof IOException io) {
        throw io;
      }
      if (failed.getCause() instanceof Error error) {
        throw error;
      }
      throw failed.getCause() instanceof RuntimeException runtime
          ? runtime
          : new IllegalStateException(failed.getCause());
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      throw new IOException("interrupted", stopped);
    }
  }
}
