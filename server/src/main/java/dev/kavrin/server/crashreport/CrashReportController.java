package dev.kavrin.server.crashreport;

import dev.kavrin.core.plan.BestAlternative;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.incident.IncidentService;
import dev.kavrin.server.incident.IncidentService.Incident;
import dev.kavrin.server.plan.Activities;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.program.ProgramAudits;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.restore.RestoreService;
import dev.kavrin.server.restore.RestoreService.ReceiptView;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.Mark;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** The last page of a crash: what was lost, why, and what would have saved most. */
@RestController
class CrashReportController {
  private final ProjectService projects;
  private final IncidentService incidents;
  private final VersionService trail;
  private final RestoreService restores;
  private final Activities activities;
  private final ProgramAudits audits;

  CrashReportController(
      ProjectService projects,
      IncidentService incidents,
      VersionService trail,
      RestoreService restores,
      Activities activities,
      ProgramAudits audits) {
    this.projects = projects;
    this.incidents = incidents;
    this.trail = trail;
    this.restores = restores;
    this.activities = activities;
    this.audits = audits;
  }

  /**
   * A document that went down.
   *
   * @param work when the work in what came back was done; null if nothing was restored
   * @param receipt of the restore, null if there was none
   * @param opened a person's word about it, null if nobody said
   * @param hindsight the change that would have saved most of it, null if none would have
   */
  record ClosingLine(
      UUID document,
      String name,
      @Nullable Instant work,
      @Nullable Long lostSeconds,
      @Nullable ReceiptView receipt,
      @Nullable String opened,
      @Nullable HindsightView hindsight) {}

  /**
   * @param toSeconds what it would be set to; zero for every save
   * @param plan with the change in it, null if it is one of the program's own settings
   */
  record HindsightView(
      BestAlternative.Kind kind,
      long toSeconds,
      long lostSeconds,
      long savedSeconds,
      @Nullable Plan plan) {
    static HindsightView of(BestAlternative h) {
      return new HindsightView(
          h.kind(), h.to().toSeconds(), h.lost().toSeconds(), h.saved().toSeconds(), h.plan());
    }
  }

  /**
   * @param writesEverySeconds how often the program writes by itself, null if it does not
   * @param documents the largest loss first
   */
  record Closing(
      Incident incident,
      String program,
      @Nullable Long writesEverySeconds,
      List<ClosingLine> documents) {}

  @GetMapping("/api/projects/{project}/incidents/{id}/crash-report")
  Closing crashReport(@PathVariable UUID project, @PathVariable UUID id) {
    Incident incident =
        incidents.of(project).stream()
            .filter(i -> i.id().equals(id))
            .findFirst()
            .orElseThrow(() -> ProblemException.notFound("No such incident."));
    Kept kept = projects.kept(project);
    Duration writes = audits.writesEvery(kept);
    return new Closing(
        incident,
        kept.project().program().name(),
        writes == null ? null : writes.toSeconds(),
        incident.documents().stream()
            .map(d -> line(kept, incident, d, writes))
            .sorted(
                Comparator.comparing(
                    ClosingLine::lostSeconds, Comparator.nullsFirst(Comparator.reverseOrder())))
            .toList());
  }

  private ClosingLine line(Kept kept, Incident incident, UUID document, @Nullable Duration writes) {
    Optional<ReceiptView> receipt =
        restores.all(document).stream()
            .filter(r -> r.made().isAfter(incident.to()))
            .findFirst()
            .filter(r -> !r.receipt().mode().equals("undo"));
    Optional<StateView> taken =
        receipt.flatMap(
            r ->
                trail.whole(document).states().stream()
                    .filter(s -> s.id().equals(r.receipt().state()))
                    .findFirst());
    Instant work = taken.map(StateView::workTo).orElse(null);
    return new ClosingLine(
        document,
        projects.document(document).path(),
        work,
        work == null ? null : Math.max(0, Duration.between(work, incident.to()).toSeconds()),
        receipt.orElse(null),
        taken.stream()
            .flatMap(s -> s.marks().stream())
            .map(Mark::mark)
            .filter(m -> m.startsWith("opened"))
            .findFirst()
            .orElse(null),
        work == null || !work.isBefore(incident.from())
            ? null
            : BestAlternative.of(
                    kept.project().planFor(document),
                    activities.of(kept, List.of(document)),
                    incident.from(),
                    work,
                    writes)
                .map(HindsightView::of)
                .orElse(null));
  }
}
