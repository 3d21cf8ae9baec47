package dev.kavrin.server.job;

import dev.kavrin.server.platform.Events;
import io.micrometer.core.instrument.MeterRegistry;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.http.ProblemDetail;
import org.springframework.transaction.TransactionException;
import tools.jackson.databind.json.JsonMapper;

/** Jobs that are being done, and those whose end is not written yet. */
final class RunningJobs {
  static final Duration LEASE = Duration.ofMinutes(1);

  private static final Logger LOG = LoggerFactory.getLogger(RunningJobs.class);

  private final JobRow.Repository rows;
  private final JsonMapper mapper;
  private final Events events;
  private final MeterRegistry meters;
  private final InstantSource clock;
  private final Map<UUID, RunningJob> jobs = new ConcurrentHashMap<>();
  private final Endings endings = new Endings();

  RunningJobs(
      JobRow.Repository rows,
      JsonMapper mapper,
      Events events,
      MeterRegistry meters,
      InstantSource clock) {
    this.rows = rows;
    this.mapper = mapper;
    this.events = events;
    this.meters = meters;
    this.clock = clock;
  }

  Endings endings() {
    return endings;
  }

  void add(RunningJob job) {
    jobs.put(job.id(), job);
  }

  /** Lets go of one without an end: it is taken up at the next start. */
  void remove(UUID id) {
    jobs.remove(id);
  }

  @Nullable
  RunningJob of(UUID id) {
    return jobs.get(id);
  }

  /** What ended while the records were away is written once they are back. */
  void tell() {
    writeEnds();
    Instant lease = clock.instant().plus(LEASE);
    try {
      for (RunningJob job : jobs.values()) {
        if (job.isNews() || job.isOwed()) {
          rows.tell(job.id(), job.share(), job.words(), lease);
        }
      }
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Progress waits for the records: {}", away.getMessage());
    }
  }

  private void writeEnds() {
    for (RunningJob job : jobs.values()) {
      if (job.isOver()) {
        try {
          end(job.id(), job.kind(), job.end().state(), job.end().result(), job.end().problem());
          jobs.remove(job.id());
        } catch (DataAccessException | TransactionException away) {
          LOG.debug("The end of a job waits for the records: {}", away.getMessage());
          return;
        }
      }
    }
  }

  void end(
      UUID id,
      String kind,
      Job.State state,
      @Nullable String result,
      @Nullable ProblemDetail problem) {
    String told = problem == null ? null : mapper.writeValueAsString(told(problem));
    if (rows.end(id, state, result, told, clock.instant()) == 1) {
      endings.one();
      meters.counter("kavrin.jobs", "kind", kind, "state", state.name()).increment();
    }
    events.changed("jobs");
  }

  private static Job.Problem told(ProblemDetail p) {
    return new Job.Problem(p.getStatus(), String.valueOf(p.getType()), p.getTitle(), p.getDetail());
  }
}
