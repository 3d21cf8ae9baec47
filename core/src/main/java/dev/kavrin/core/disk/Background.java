package dev.kavrin.core.disk;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.Executor;
import java.util.concurrent.Executors;

/** Threads that read or flush while another writes; they wait on devices, so there is no limit. */
final class Background {
  static final Executor THREADS =
      Executors.newCachedThreadPool(
          task -> {
            Thread thread = new Thread(task, "disk");
            thread.setDaemon(true);
            return thread;
          });

  private Background() {}

  /** Waits; a failure of the disk is thrown as it was. */
  static void join(CompletableFuture<Void> work) throws IOException {
    try {
      work.join();
    } catch (CompletionException told) {
      if (told.getCause() instanceof UncheckedIOException failed) {
        throw failed.getCause();
      }
      throw told;
    }
  }
}
