package dev.kavrin.server.bundle;

import com.fasterxml.jackson.annotation.JsonInclude;
import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.ProblemException;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongConsumer;
import org.springframework.stereotype.Component;

/** What is packed or brought back in the background, one at a time; it can be stopped. */
@Component
class PackJobs {
  /** Of all that packs; see {@link #kind}. */
  private static final List<String> KINDS = List.of("bundle", "archive", "bring-back");

  private final Disk disk;
  private final JobService jobs;
  private final Events events;
  private final Map<UUID, Progress> progress = new ConcurrentHashMap<>();

  PackJobs(Disk disk, JobService jobs, Events events) {
    this.disk = disk;
    this.jobs = jobs;
    this.events = events;
  }

  /** How far it is. */
  enum Stage {
    RUNNING,
    DONE,
    CANCELLED,
    FAILED;

    static Stage of(Job.State state) {
      return switch (state) {
        case WAITING, RUNNING -> RUNNING;
        case DONE -> DONE;
        case CANCELLED -> CANCELLED;
        case FAILED -> FAILED;
      };
    }
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

  /**
   * Something to pack, looked at and found possible.
   *
   * @param folder that is made and must have room for so many bytes
   */
  record Prepared(Path target, Path folder, long bytes, Work work) {}

  /** Looks at what is asked for. */
  interface Preparing<R> {
    Prepared of(R request) throws IOException;
  }

  /** How many bytes of how many are packed. */
  private record Progress(AtomicLong done, long bytes, boolean goesOn) {}

  /** The same order into the same folder goes on where it stopped, after a stop too. */
  <R> JobKind<R> kind(String name, Class<R> request, Preparing<R> preparing) {
    return JobKind.repeatable(name, Lane.ASKED, request, (r, job) -> packed(preparing.of(r), job));
  }

  /**
   * @param prepared from the same request
   * @throws ProblemException another one goes on
   * @throws NoRoomException too little room
   */
  synchronized <R> BundleView begin(JobKind<R> kind, R request, Prepared prepared, String who)
      throws IOException {
    if (jobs.open(KINDS).isPresent()) {
      throw ProblemException.conflict("busy", "Another bundle is being packed.");
    }
    requireRoom(prepared);
    return view(jobs.begin(kind, prepared.target().toString(), request, who));
  }

  private void requireRoom(Prepared prepared) throws IOException {
    disk.makeFolders(prepared.folder());
    long free = disk.room(prepared.folder());
    if (free < prepared.bytes()) {
      throw new NoRoomException(prepared.folder(), prepared.bytes(), free);
    }
  }

  private String packed(Prepared prepared, JobRun job) throws IOException {
    requireRoom(prepared);
    boolean goesOn =
        prepared.target().equals(prepared.folder()) && !disk.list(prepared.folder()).isEmpty();
    Progress now = new Progress(new AtomicLong(), prepared.bytes(), goesOn);
    progress.clear();
    progress.put(job.id(), now);
    try {
      return prepared
          .work()
          .run(
              more -> {
                double done = now.done().addAndGet(more);
                job.at(done / Math.max(1, now.bytes()), "Packing " + prepared.target());
              });
    } finally {
      events.changed("bundles");
    }
  }

  Optional<BundleView> latest() {
    return jobs.latest(KINDS).map(this::view);
  }

  private BundleView view(Job job) {
    Progress now = progress.get(job.id());
    return new BundleView(
        job.key(),
        job.begun() == null ? job.created() : job.begun(),
        now == null ? 0 : now.done().get(),
        now == null ? 0 : now.bytes(),
        now != null && now.goesOn(),
        Stage.of(job.state()),
        job.result() == null ? null : job.result().asString(),
        job.problem() == null ? null : job.problem().detail());
  }

  void cancel() {
    jobs.open(KINDS).ifPresent(job -> jobs.cancel(job.id()));
  }
}
