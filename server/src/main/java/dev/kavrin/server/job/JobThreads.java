package dev.kavrin.server.job;

import dev.kavrin.core.lane.Lane;
import java.util.EnumMap;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;

/** Threads of its own for each lane. */
final class JobThreads implements AutoCloseable {
  private static final int EACH = 3;

  private final Map<Lane, ExecutorService> lanes = new EnumMap<>(Lane.class);

  JobThreads() {
    for (Lane lane : Lane.values()) {
      lanes.put(lane, threads(lane));
    }
  }

  private static ExecutorService threads(Lane lane) {
    AtomicInteger count = new AtomicInteger();
    return Executors.newFixedThreadPool(
        lane == Lane.BULK ? 1 : EACH,
        task -> {
          String name = "job-" + lane.name().toLowerCase(Locale.ROOT) + "-";
          Thread thread = new Thread(task, name + count.incrementAndGet());
          thread.setDaemon(true);
          return thread;
        });
  }

  void execute(Lane lane, Runnable work) {
    lanes.get(lane).execute(work);
  }

  /** Interrupts what runs, and waits a while for it. */
  @Override
  public void close() throws InterruptedException {
    lanes.values().forEach(ExecutorService::shutdownNow);
    for (ExecutorService lane : lanes.values()) {
      lane.awaitTermination(8, TimeUnit.SECONDS);
    }
  }
}
