package dev.kavrin.server.job;

import jakarta.annotation.Nullable;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.domain.Limit;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Modifying;
import org.springframework.data.jpa.repository.Query;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** A job as recorded. */
@Entity
@Table(name = "job")
class JobRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;
  String kind;
  String key;
  String node;
  String lane;

  @Enumerated(EnumType.STRING)
  Job.State state;

  String person;
  String request;
  Double progress;
  String words;
  String result;
  String problem;
  int attempt;
  boolean cancelled;
  Instant lease;
  Instant created;
  Instant begun;
  Instant ended;

  /**
   * @param now the job while it is done, else null
   */
  Job seen(JsonMapper mapper, @Nullable RunningJob now) {
    boolean goesOn = state.isOpen() && now != null;
    return new Job(
        uuid,
        kind,
        key,
        state,
        person,
        goesOn ? now.share() : progress,
        goesOn ? now.words() : words,
        result == null ? null : mapper.readTree(result),
        problem == null ? null : mapper.readValue(problem, Job.Problem.class),
        cancelled || (goesOn && now.isCancelled()),
        attempt,
        created,
        begun,
        ended);
  }

  interface Repository extends JpaRepository<JobRow, Long> {
    Optional<JobRow> findByUuid(UUID uuid);

    Optional<JobRow> findByKindAndKeyAndStateIn(
        String kind, String key, Collection<Job.State> states);

    List<JobRow> findByNodeAndStateIn(String node, Collection<Job.State> states);

    Optional<JobRow> findFirstByKindInOrderByIdDesc(Collection<String> kinds);

    @Query("select j from JobRow j order by j.id desc")
    List<JobRow> newest(Limit limit);

    /** 1 for the one who may do it. */
    @Modifying
    @Transactional
    @Query(
        "update JobRow j set j.state = RUNNING, j.attempt = j.attempt + 1, j.begun = :now,"
            + " j.lease = :lease where j.uuid = :uuid and j.state = WAITING")
    int claim(UUID uuid, Instant now, Instant lease);

    @Modifying
    @Transactional
    @Query(
        "update JobRow j set j.progress = :progress, j.words = :words, j.lease = :lease"
            + " where j.uuid = :uuid and j.state = RUNNING")
    void tell(UUID uuid, Double progress, String words, Instant lease);

    @Modifying
    @Transactional
    @Query(
        "update JobRow j set j.state = :state, j.result = :result, j.problem = :problem,"
            + " j.ended = :now, j.lease = null where j.uuid = :uuid and j.state in (WAITING,"
            + " RUNNING)")
    int end(UUID uuid, Job.State state, String result, String problem, Instant now);

    @Modifying
    @Transactional
    @Query("update JobRow j set j.cancelled = true where j.uuid = :uuid and j.ended is null")
    void cancel(UUID uuid);

    @Modifying
    @Transactional
    @Query("update JobRow j set j.state = WAITING where j.uuid = :uuid and j.state = RUNNING")
    void waitAgain(UUID uuid);

    @Modifying
    @Transactional
    @Query("delete from JobRow j where j.ended < :before")
    void forget(Instant before);
  }
}
