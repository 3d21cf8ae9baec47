package dev.kavrin.server.platform;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.function.Supplier;

/**
 * Something costly that many ask for at once: made by one of them at a time. Who asks while it is
 * being made gets what is made next, never what was begun before they asked; all who wait share it.
 */
public final class OneForAll<T> {
  private final Supplier<T> making;
  private CompletableFuture<T> running;
  private CompletableFuture<T> next;

  public OneForAll(Supplier<T> making) {
    this.making = making;
  }

  /** What it is now; fails as the making did. */
  public T get() {
    CompletableFuture<T> before;
    CompletableFuture<T> mine;
    synchronized (this) {
      before = running;
      if (next != null) {
        mine = next;
        before = null;
      } else if (running != null) {
        mine = next = new CompletableFuture<>();
      } else {
        running = new CompletableFuture<>();
        mine = running;
        before = mine;
      }
    }
    if (before == null) {
      return shared(mine);
    }
    if (before != mine) {
      before.handle((made, failed) -> null).join();
      synchronized (this) {
        running = mine;
        next = null;
      }
    }
    return make(mine);
  }

  private T make(CompletableFuture<T> mine) {
    try {
      mine.complete(making.get());
    } catch (RuntimeException | Error failed) {
      mine.completeExceptionally(failed);
    } finally {
      synchronized (this) {
        if (running == mine && next == null) {
          running = null;
        }
      }
    }
    return shared(mine);
  }

  private static <T> T shared(CompletableFuture<T> made) {
    try {
      return made.join();
    } catch (CompletionException failed) {
      if (failed.getCause() instanceof RuntimeException told) {
        throw told;
      }
      throw failed;
    }
  }
}
