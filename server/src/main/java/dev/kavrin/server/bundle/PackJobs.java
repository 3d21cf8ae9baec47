package dev.kavrin.server.bundle;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.ProblemException;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.LongConsumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.stereotype.Component;

/** What is packed or brought back in the background, one at a time; it can be stopped. */
@Component
class PackJobs implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(PackJobs.class);

  private final Disk disk;
  private final Events events;
  private final InstantSource clock;
  private final ExecutorService one = Executors.newSingleThreadExecutor();
  private final AtomicReference<Job> latest = new AtomicReference<>();

  PackJobs(Disk disk, Events events, InstantSource clock) {
    this.disk = disk;
    this.events = events;
    this.clock = clock;
  }

  /** How far it is. */
  enum Stage {
    RUNNING,
    DONE,
    CANCELLED,
    FAILED
  }

  /**
   * @param folder that becomes the bundle, or the ZIP
   * @param goesOn true if an earlier run was stopped on the way into the same folder
   * @param told what came of it, in words; null before that
   * @param problem why it failed, in words; null if it did not
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record BundleView(
      String folder,
      Instant started,
      long done,
      long bytes,
      boolean goesOn,
      Stage stage,
      @Nullable String told,
      @Nullable String problem) {}

  /** What is done. */
  interface Work {
    /**
     * @param onTheWay told the bytes of each file that is done
     * @return what came of it, in words
     */
    String run(LongConsumer onTheWay) throws IOException;
  }

  private static final class Job {
    private final Path target;
    private final Instant started;
    private final long bytes;
    private final boolean goesOn;
    private final AtomicLong done = new AtomicLong();
    private volatile Stage stage = Stage.RUNNING;
    private volatile boolean cancelled;
    private volatile String told;
    private volatile String problem;

    Job(Path target, Instant started, long bytes, boolean goesOn) {
      this.target = target;
      this.started = started;
      this.bytes = bytes;
      this.goesOn = goesOn;
    }

    BundleView view() {
      return new BundleView(
          target.toString(), started, done.get(), bytes, goesOn, stage, told, problem);
    }

    void did(long more) {
      done.addAndGet(more);
      if (cancelled) {
        throw new Cancelled();
      }
    }
  }

  private static final class Cancelled extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  /**
   * @param folder that is made and must have room for so many bytes
   * @throws ProblemException another one goes on
   * @throws NoRoomException too little room
   */
  synchronized BundleView begin(Path target, Path folder, long bytes, Work work)
      throws IOException {
    Job before = latest.get();
    if (before != null && before.stage == Stage.RUNNING) {
      throw ProblemException.conflict("busy", "Another bundle is being packed.");
    }
    disk.makeFolders(folder);
    long free = disk.room(folder);
    if (free < bytes) {
      throw new NoRoomException(folder, bytes, free);
    }
    boolean goesOn = target.equals(folder) && !disk.list(folder).isEmpty();
    Job job = new Job(target, clock.instant(), bytes, goesOn);
    latest.set(job);
    one.submit(() -> run(job, work));
    return job.view();
  }

  private void run(Job job, Work work) {
    try {
      job.told = work.run(job::did);
      job.stage = Stage.DONE;
    } catch (Cancelled stopped) {
      job.stage = Stage.CANCELLED;
    } catch (IOException | RuntimeException failed) {
      LOG.warn("{} was not finished: {}", job.target, failed.getMessage());
      job.problem = failed.getMessage();
      job.stage = Stage.FAILED;
    }
    events.changed("bundles");
  }

  @Nullable
  BundleView latest() {
    Job job = latest.get();
    return job == null ? null : job.view();
  }

  void cancel() {
    Job job = latest.get();
    if (job != null) {
      job.cancelled = true;
    }
  }

  @Override
  public void destroy() {
    cancel();
    one.shutdown();
  }
}
