package dev.kavrin.server.backup;

import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.lane.Lanes;
import java.util.ArrayDeque;
import java.util.EnumMap;
import java.util.Map;
import java.util.Queue;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;

/**
 * The lanes of one project or folder: in each, one thing at a time, the large beside the small. A
 * thread is there only while there is something to do.
 */
final class WorkLanes implements Lanes {
  private final Shared shared;
  private final Attempts attempts;
  private final Map<Lane, Queued> small = new EnumMap<>(Lane.class);
  private final Map<Lane, Queued> large = new EnumMap<>(Lane.class);
  private final Queued looks;
  private final Set<String> taken = ConcurrentHashMap.newKeySet();

  WorkLanes(Shared shared, Attempts attempts) {
    this.shared = shared;
    this.attempts = attempts;
    this.looks = new Queued(shared.threads);
    for (Lane lane : Lane.values()) {
      small.put(lane, new Queued(shared.threads));
      large.put(lane, new Queued(shared.threads));
    }
  }

  @Override
  public void run(Lane lane, long bytes, String what, Work work) {
    boolean isLarge = bytes >= Lane.LARGE;
    Queued queue = isLarge ? large.get(lane) : small.get(lane);
    take(queue, what, () -> shared.within(lane, isLarge, () -> attempts.run(what, work)));
  }

  /** Looking comes before all lanes and waits for none. */
  void look(String what, Work work) {
    take(looks, what, () -> attempts.run(what, work));
  }

  private void take(Queued queue, String what, Runnable work) {
    if (!taken.add(what)) {
      return;
    }
    try {
      queue.execute(
          () -> {
            try {
              work.run();
            } finally {
              taken.remove(what);
            }
          });
    } catch (RejectedExecutionException closing) {
      taken.remove(what);
    }
  }

  /** Does one thing after the other on threads shared with others. */
  private static final class Queued implements Executor {
    private final Executor threads;
    private final Queue<Runnable> waiting = new ArrayDeque<>();
    private boolean running;

    Queued(Executor threads) {
      this.threads = threads;
    }

    @Override
    public synchronized void execute(Runnable work) {
      waiting.add(work);
      if (!running) {
        threads.execute(this::workOff);
        running = true;
      }
    }

    private void workOff() {
      for (Runnable next = next(); next != null; next = next()) {
        next.run();
      }
    }

    private synchronized Runnable next() {
      Runnable next = waiting.poll();
      running = next != null;
      return next;
    }
  }

  /** What all lanes of the service share: threads, and the disk, of which the urgent get more. */
  static final class Shared implements AutoCloseable {
    private static final long LONGEST_PAUSE = 50_000_000;

    private final ExecutorService threads;
    private final Map<Lane, AtomicInteger> urgent = new EnumMap<>(Lane.class);
    private final ThreadLocal<Pace> pace = new ThreadLocal<>();

    /** What a thread works at, and when it last passed some bytes on. */
    private static final class Pace {
      private final Lane lane;
      private final boolean large;
      private long passed = System.nanoTime();

      Pace(Lane lane, boolean large) {
        this.lane = lane;
        this.large = large;
      }
    }

    Shared() {
      AtomicInteger count = new AtomicInteger();
      threads =
          Executors.newCachedThreadPool(
              task -> {
                Thread thread = new Thread(task, "lane-" + count.incrementAndGet());
                thread.setDaemon(true);
                return thread;
              });
      for (Lane lane : Lane.values()) {
        urgent.put(lane, new AtomicInteger());
      }
    }

    private void within(Lane lane, boolean large, Runnable work) {
      pace.set(new Pace(lane, large));
      AtomicInteger running = urgent.get(lane);
      boolean counts = !large && lane != Lane.BULK;
      running.addAndGet(counts ? 1 : 0);
      try {
        work.run();
      } finally {
        running.addAndGet(counts ? -1 : 0);
        pace.remove();
      }
    }

    /** Called after some bytes: what can wait keeps to a quarter of the disk's time meanwhile. */
    void giveWay() {
      Pace own = pace.get();
      if (own == null || !(own.large || own.lane == Lane.BULK)) {
        return;
      }
      long took = System.nanoTime() - own.passed;
      if (urgent.values().stream().anyMatch(n -> n.get() > 0)) {
        LockSupport.parkNanos(Math.min(3 * took, LONGEST_PAUSE));
      }
      own.passed = System.nanoTime();
    }

    /** Waits a while for what runs; what does not end is stopped, and settled at the next start. */
    @Override
    public void close() {
      threads.shutdown();
      try {
        if (!threads.awaitTermination(8, TimeUnit.SECONDS)) {
          threads.shutdownNow();
          threads.awaitTermination(8, TimeUnit.SECONDS);
        }
      } catch (InterruptedException interrupted) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
