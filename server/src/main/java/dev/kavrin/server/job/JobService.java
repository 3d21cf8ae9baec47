package dev.kavrin.server.job;

import dev.kavrin.server.platform.Events;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.Node;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Problems;
import io.micrometer.core.instrument.MeterRegistry;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.data.domain.Limit;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.TransactionException;
import tools.jackson.databind.json.JsonMapper;

/**
 * All long work that people ask for: written down before it is begun, done on threads of its lane,
 * told as it goes, taken up again after a stop.
 */
@Service
public class JobService implements DisposableBean {
  private static final int TRIES = 20;
  private static final Logger LOG = LoggerFactory.getLogger(JobService.class);
  private static final List<Job.State> OPEN = List.of(Job.State.WAITING, Job.State.RUNNING);
  private static final Duration KEPT = Duration.ofDays(30);
  private static final int SHOWN = 100;

  private final ObjectProvider<JobKinds> kinds;
  private final JobRow.Repository rows;
  private final JsonMapper mapper;
  private final Node node;
  private final Events events;
  private final InstantSource clock;
  private final RunningJobs running;
  private final JobThreads threads = new JobThreads();
  private final Set<UUID> taken = ConcurrentHashMap.newKeySet();
  private volatile boolean closing;

  JobService(
      ObjectProvider<JobKinds> kinds,
      JobRow.Repository rows,
      JsonMapper mapper,
      Node node,
      Events events,
      MeterRegistry meters,
      InstantSource clock) {
    this.kinds = kinds;
    this.rows = rows;
    this.mapper = mapper;
    this.node = node;
    this.events = events;
    this.running = new RunningJobs(rows, mapper, events, meters, clock);
    this.clock = clock;
  }

  @EventListener(ApplicationReadyEvent.class)
  void begin() {
    takeUp();
    rows.forget(clock.instant().minus(KEPT));
  }

  /**
   * What nobody is at, after a stop or because the records were away when it was to begin, is begun
   * again, or told as cut off where a person has to look first.
   */
  @Scheduled(fixedDelay = 10_000, initialDelay = 10_000)
  void takeUpAgain() {
    try {
      takeUp();
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Jobs wait for the records: {}", away.getMessage());
    }
  }

  private void takeUp() {
    Map<String, JobKind<?>> byName =
        kinds.stream()
            .flatMap(k -> k.kinds().stream())
            .collect(Collectors.toMap(JobKind::name, Function.identity()));
    for (JobRow row : rows.findByNodeAndStateIn(node.id(), OPEN)) {
      if (taken.contains(row.uuid) || running.of(row.uuid) != null) {
        continue;
      }
      JobKind<?> kind = byName.get(row.kind);
      boolean cutOff = row.state == Job.State.RUNNING;
      if (kind == null || (cutOff && !kind.again())) {
        running.end(
            row.uuid,
            row.kind,
            Job.State.FAILED,
            null,
            Problems.of(
                ProblemException.away(
                    "Kavrin was stopped meanwhile. What was done until then is whole; look, and"
                        + " begin again.",
                    null)));
      } else {
        if (cutOff) {
          rows.waitAgain(row.uuid);
        }
        submit(row.uuid, kind);
      }
    }
  }

  /**
   * Writes the job down and has it done. Asked for twice, it is done once.
   *
   * @return the job as it stands; the open one, if it is that
   * @throws ProblemException something else is being done with the same key
   */
  public <R> Job begin(JobKind<R> kind, String key, R request, String person) {
    JobRow row = new JobRow();
    row.uuid = Ids.next(clock.instant());
    row.kind = kind.name();
    row.key = key;
    row.node = node.id();
    row.lane = kind.lane().name();
    row.state = Job.State.WAITING;
    row.person = person;
    row.request = mapper.writeValueAsString(request);
    row.created = clock.instant();
    Optional<Job> joined = written(row);
    if (joined.isPresent()) {
      return joined.get();
    }
    submit(row.uuid, kind);
    events.changed("jobs");
    return seen(row);
  }

  /** Empty once the job stands in the records; else the open one it would be the second of. */
  private Optional<Job> written(JobRow row) {
    for (int tries = 0; ; tries++) {
      try {
        rows.saveAndFlush(row);
        return Optional.empty();
      } catch (DataIntegrityViolationException already) {
        Optional<Job> open = joined(row);
        // None is open: the other ended in between, so this one is written after all.
        if (open.isPresent() || tries == TRIES) {
          return Optional.of(open.orElseThrow(() -> already));
        }
      }
    }
  }

  private Optional<Job> joined(JobRow wanted) {
    Optional<JobRow> open = rows.findByKindAndKeyAndStateIn(wanted.kind, wanted.key, OPEN);
    if (open.filter(o -> !o.request.equals(wanted.request)).isPresent()) {
      throw ProblemException.conflict(
          "busy", "That is under way already, in another way. Nothing was touched now.");
    }
    return open.map(this::seen);
  }

  /** The open job of some kinds. */
  public Optional<Job> open(Collection<String> ofKinds) {
    return latest(ofKinds).filter(j -> j.state().isOpen());
  }

  /** The newest job of some kinds, open or ended. */
  public Optional<Job> latest(Collection<String> ofKinds) {
    return rows.findFirstByKindInOrderByIdDesc(ofKinds).map(this::seen);
  }

  public List<Job> newest() {
    return rows.newest(Limit.of(SHOWN)).stream().map(this::seen).toList();
  }

  public Job byId(UUID id) {
    return rows.findByUuid(id)
        .map(this::seen)
        .orElseThrow(() -> ProblemException.notFound("No such job: " + id + "."));
  }

  /** Waits until it has ended, or a while. */
  public Job await(UUID id, Duration atMost) {
    long until = System.nanoTime() + atMost.toNanos();
    while (true) {
      long seen = running.endings().count();
      Job job = byId(id);
      if (!job.state().isOpen() || !running.endings().waitForAnother(seen, until)) {
        return job;
      }
    }
  }

  /** Returns at once; the job ends at the next point at which all it did is whole. */
  public Job cancel(UUID id) {
    Job job = byId(id);
    rows.cancel(id);
    RunningJob now = running.of(id);
    if (now != null) {
      now.cancel();
    }
    return job.state() == Job.State.WAITING ? byId(id) : job;
  }

  private void submit(UUID id, JobKind<?> kind) {
    taken.add(id);
    threads.execute(
        kind.lane(),
        () -> {
          try {
            run(id, kind);
          } finally {
            taken.remove(id);
          }
        });
  }

  private <R> void run(UUID id, JobKind<R> kind) {
    JobRow row;
    try {
      if (closing
          || rows.claim(id, clock.instant(), clock.instant().plus(RunningJobs.LEASE)) != 1) {
        return;
      }
      row = rows.findByUuid(id).orElseThrow();
    } catch (DataAccessException | TransactionException away) {
      LOG.warn("Job {} waits for the records: {}", id, away.getMessage());
      return;
    }
    RunningJob job = new RunningJob(row, events);
    running.add(job);
    try {
      job.requireGoingOn();
      Object result = kind.work().run(mapper.readValue(row.request, kind.request()), job);
      job.over(Job.State.DONE, result == null ? null : mapper.writeValueAsString(result), null);
    } catch (JobCancelledException stopped) {
      job.over(Job.State.CANCELLED, null, null);
    } catch (Exception failed) {
      if (closing) {
        running.remove(id);
        return;
      }
      LOG.warn("{} of {} failed: {}", kind.name(), row.key, failed.getMessage());
      job.over(Job.State.FAILED, null, Problems.of(failed));
    } catch (Error failed) {
      job.over(Job.State.FAILED, null, Problems.of(new IllegalStateException(failed)));
      throw failed;
    } finally {
      running.tell();
    }
  }

  @Scheduled(fixedDelay = 500)
  void keepTold() {
    running.tell();
  }

  private Job seen(JobRow row) {
    return row.seen(mapper, running.of(row.uuid));
  }

  @Override
  public void destroy() throws InterruptedException {
    closing = true;
    threads.close();
  }
}
