package dev.kavrin.server.recoverytest;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.incident.Leftovers;
import dev.kavrin.core.journal.JournalEntry.Rehearsed;
import dev.kavrin.core.journal.Proof;
import dev.kavrin.core.plan.OwnWrites;
import dev.kavrin.core.plan.PlanFigures;
import dev.kavrin.core.plan.PlanInputs;
import dev.kavrin.core.recoverytest.RecoveryTest;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.incident.IncidentService;
import dev.kavrin.server.incident.IncidentService.Incident;
import dev.kavrin.server.incident.RecoverService;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.program.ProgramAudits;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** A rehearsal with a person's own program: they change, wait and kill; Kavrin watches. */
@Service
class GuidedRecoveryTest {
  private final ProjectService projects;
  private final VersionService trail;
  private final IncidentService incidents;
  private final RecoverService desks;
  private final ProgramAudits audits;
  private final RecoveryTests records;
  private final Disk disk;
  private final InstantSource clock;

  GuidedRecoveryTest(
      ProjectService projects,
      VersionService trail,
      IncidentService incidents,
      RecoverService desks,
      ProgramAudits audits,
      RecoveryTests records,
      Disk disk,
      InstantSource clock) {
    this.projects = projects;
    this.trail = trail;
    this.incidents = incidents;
    this.desks = desks;
    this.audits = audits;
    this.records = records;
    this.disk = disk;
    this.clock = clock;
  }

  /**
   * How far a person is.
   *
   * @param wrote when the program last wrote since it began, null if it has not yet
   * @param wroteWhat the file it wrote
   * @param gone the incident, once the program is gone
   */
  record Guided(
      UUID id,
      Instant began,
      boolean programRuns,
      @Nullable Instant wrote,
      @Nullable String wroteWhat,
      @Nullable Incident gone) {}

  private Optional<Rehearsed> open(UUID document) {
    return records.ofDocument(document).stream().filter(r -> r.proof() == null).findFirst();
  }

  /** Begins one, the file copied first; one that was begun goes on. */
  Guided begin(UUID document, String who) throws IOException {
    if (open(document).isEmpty()) {
      Document there = projects.document(document);
      if (facts(there).isPresent()) {
        projects.kept(there.project()).watch().copyNow(document, "before a recovery test");
      }
      Instant now = clock.instant();
      records.record(new Rehearsed(now, Ids.next(now), document, who, null));
    }
    return at(document).orElseThrow();
  }

  /** Empty if none goes on. */
  Optional<Guided> at(UUID id) {
    return open(id).map(r -> guided(projects.document(id), r));
  }

  private Guided guided(Document document, Rehearsed begun) {
    Kept kept = projects.kept(document.project());
    Optional<Leftovers.Leftover> wrote =
        Leftovers.find(disk, kept.project(), document.id(), document.path(), kept.livePaths())
            .stream()
            .filter(l -> l.facts().modified().isAfter(begun.at()))
            .max((a, b) -> a.facts().modified().compareTo(b.facts().modified()));
    Optional<Instant> saved =
        facts(document).map(FileFacts::modified).filter(m -> m.isAfter(begun.at()));
    Instant leftover = wrote.map(l -> l.facts().modified()).orElse(null);
    boolean file = saved.isPresent() && (leftover == null || saved.get().isAfter(leftover));
    return new Guided(
        begun.id(),
        begun.at(),
        kept.incidents().programRuns(kept.project()),
        Stream.of(saved, Optional.ofNullable(leftover))
            .flatMap(Optional::stream)
            .max(Instant::compareTo)
            .orElse(null),
        file ? document.live().toString() : wrote.map(l -> l.path().toString()).orElse(null),
        gone(document, begun).orElse(null));
  }

  private Optional<FileFacts> facts(Document document) {
    try {
      return disk.facts(document.live());
    } catch (IOException unreachable) {
      return Optional.empty();
    }
  }

  private Optional<Incident> gone(Document document, Rehearsed begun) {
    return incidents.of(document.project()).stream()
        .filter(i -> i.documents().contains(document.id()) && i.to().isAfter(begun.at()))
        .findFirst();
  }

  /**
   * The record: what the desk recommends, what it lacks, and what was promised.
   *
   * @throws ProblemException none goes on, or its program is not gone yet
   */
  Rehearsed end(UUID id, String who) throws IOException {
    Document document = projects.document(id);
    Rehearsed begun =
        open(id).orElseThrow(() -> ProblemException.notFound("No recovery test of it runs."));
    Incident gone =
        gone(document, begun)
            .orElseThrow(
                () ->
                    ProblemException.conflict(
                        "not-gone", "The program is not gone yet, as far as can be seen."));
    String best = desks.recommended(id).orElse("");
    Optional<StateView> state =
        trail.whole(id).states().stream().filter(s -> s.id().equals(best)).findFirst();
    Duration lost = desks.lostSeconds(id).map(Duration::ofSeconds).orElse(null);
    Kept kept = projects.kept(document.project());
    Duration writes = audits.writesEvery(kept);
    Duration promised =
        PlanFigures.of(
                kept.project().planFor(id),
                new PlanInputs(
                    1, OwnWrites.setTo(writes), null, Duration.ZERO, 1, 1, Map.of(), null))
            .fileLost();
    Verdict verdict = state.map(s -> Verdict.valueOf(s.verdict())).orElse(Verdict.NOT_CHECKED);
    boolean within = promised == null || lost != null && lost.compareTo(promised) <= 0;
    Proof proof =
        new Proof(
            "own program",
            "killed by a person",
            RecoveryTest.planDigest(kept.project().planFor(id)),
            promised,
            null,
            lost,
            null,
            state.map(s -> s.copies().get(0).path()).orElse(null),
            verdict,
            lost != null && within && verdict.trustworthy(),
            lost == null
                ? "Nothing whole was found."
                : within ? "" : "More was lost than the plan promises.",
            Duration.between(gone.to(), clock.instant()));
    Rehearsed done = new Rehearsed(clock.instant(), begun.id(), id, who, proof);
    records.record(done);
    return done;
  }
}
