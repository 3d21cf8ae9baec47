package dev.kavrin.server.overview;

import dev.kavrin.core.settings.SettingsAudit;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.folder.FolderPresence;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.incident.IncidentService;
import dev.kavrin.server.incident.RecoverService;
import dev.kavrin.server.offsite.Coverages;
import dev.kavrin.server.offsite.Coverages.SiteLine;
import dev.kavrin.server.people.Access;
import dev.kavrin.server.platform.OneForAll;
import dev.kavrin.server.program.ProgramAudits;
import dev.kavrin.server.project.AllDocuments;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.recoverytest.RecoveryTestService;
import dev.kavrin.server.recoverytest.RecoveryTestService.Proven;
import dev.kavrin.server.version.Summaries;
import dev.kavrin.server.version.VersionsView;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** One page over everything: what would be lost now, what asks for somebody. */
@RestController
class OverviewController {

  private final ProjectService projects;
  private final AllDocuments documents;
  private final Summaries summaries;
  private final IncidentService incidents;
  private final RecoverService desks;
  private final RecoveryTestService rehearsals;
  private final FolderService places;
  private final FolderPresence presence;
  private final ProgramAudits audits;
  private final Engine engine;
  private final JournalFollower follower;
  private final Coverages coverages;
  private final Access access;
  private final OneForAll<List<ProjectLine>> all;
  private final ProjectCautions cautions;

  OverviewController(
      ProjectService projects,
      AllDocuments documents,
      Summaries summaries,
      IncidentService incidents,
      RecoverService desks,
      RecoveryTestService rehearsals,
      FolderService places,
      FolderPresence presence,
      ProgramAudits audits,
      Engine engine,
      JournalFollower follower,
      Coverages coverages,
      Access access,
      ProjectCautions cautions,
      PlatformTransactionManager transactions) {
    this.projects = projects;
    this.documents = documents;
    this.summaries = summaries;
    this.incidents = incidents;
    this.desks = desks;
    this.rehearsals = rehearsals;
    this.places = places;
    this.presence = presence;
    this.audits = audits;
    this.engine = engine;
    this.follower = follower;
    this.coverages = coverages;
    this.access = access;
    this.cautions = cautions;
    TransactionTemplate reading = new TransactionTemplate(transactions);
    reading.setReadOnly(true);
    this.all = new OneForAll<>(() -> reading.execute(s -> lines()));
  }

  /**
   * @param newestCopy when the work in the newest copy of Kavrin's was done
   */
  record DocumentLine(
      UUID id,
      String name,
      String path,
      VersionsView.Exposure exposure,
      @Nullable VersionsView.Live live,
      @Nullable Instant newestCopy,
      int states,
      int copies,
      long bytes,
      @Nullable IncidentService.Incident incident,
      @Nullable Long lostSeconds) {}

  /**
   * @param linked files its documents lean on that are copied too
   * @param elsewhere what survives the loss of this site; null while nobody watches the project
   * @param drifts where the program's own settings differ from what was wanted, the loudest first
   */
  record ProjectLine(
      UUID id,
      String name,
      String folder,
      String recovery,
      String program,
      boolean programRuns,
      boolean workHere,
      boolean recoveryHere,
      long intervalSeconds,
      boolean everySave,
      int everySteps,
      int keep,
      List<DocumentLine> documents,
      int linked,
      List<Drift> drifts,
      Proven proven,
      @Nullable SiteLine elsewhere,
      List<String> cautions) {}

  /**
   * A setting of the program's own that is not as it should be.
   *
   * @param off true if its own safety is switched off
   */
  record Drift(String words, boolean off) {}

  record OverviewView(List<ProjectLine> projects, List<String> disagreements) {}

  @GetMapping("/api/overview")
  OverviewView overview() {
    return new OverviewView(
        all.get().stream().filter(p -> access.sees(p.id())).toList(),
        access.seesEverything() ? follower.disagreements() : List.of());
  }

  /** The person has looked at journals that do not fit the records. */
  @PostMapping("/api/journals/accept")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @ApiResponse(responseCode = "204")
  void accept() {
    follower.acceptJournals();
  }

  private List<ProjectLine> lines() {
    List<ProjectService.Project> there = projects.all();
    Map<UUID, List<Document>> byProject = documents.byProject();
    Map<UUID, Summaries.Summary> stand = summaries.of(there, byProject);
    Map<UUID, List<IncidentService.Incident>> open = incidents.open();
    Map<UUID, Proven> proven = rehearsals.proven(there);
    return there.stream()
        .map(
            p -> {
              List<Document> all = byProject.getOrDefault(p.id(), List.of());
              List<IncidentService.Incident> its = open.getOrDefault(p.id(), List.of());
              List<DocumentLine> lines =
                  all.stream()
                      .filter(d -> !d.linked())
                      .map(d -> line(d, stand.get(d.id()), its))
                      .toList();
              return line(p, lines, all.size() - lines.size(), proven.get(p.id()));
            })
        .toList();
  }

  private ProjectLine line(
      ProjectService.Project p, List<DocumentLine> lines, int linked, Proven proven) {
    boolean workHere = here(p.folder());
    boolean recoveryHere = p.recoveries().stream().anyMatch(ProjectService.Recovery::here);
    return new ProjectLine(
        p.id(),
        p.name(),
        p.folder(),
        p.recovery(),
        p.program().name(),
        engine.project(p.id()).filter(k -> k.incidents().programRuns(k.project())).isPresent(),
        workHere,
        recoveryHere,
        p.plan().interval().toSeconds(),
        p.plan().everySave(),
        p.sets() == null ? 0 : p.plan().everySteps(),
        p.plan().keep().newest(),
        lines,
        linked,
        drifts(p.id()),
        proven,
        engine.project(p.id()).map(coverages::line).orElse(null),
        cautions.of(p, workHere, recoveryHere));
  }

  private DocumentLine line(
      Document d, Summaries.Summary summary, List<IncidentService.Incident> open) {
    IncidentService.Incident incident =
        open.stream().filter(i -> i.documents().contains(d.id())).findFirst().orElse(null);
    return new DocumentLine(
        d.id(),
        d.path(),
        d.live().toString(),
        summary.exposure(),
        summary.live(),
        summary.newestCopy(),
        summary.states(),
        summary.copies(),
        summary.bytes(),
        incident,
        incident == null ? null : desks.lostSeconds(d.id()).orElse(null));
  }

  private List<Drift> drifts(UUID project) {
    ProgramAudits.Standing standing =
        engine.project(project).flatMap(audits::lastKnown).orElse(null);
    if (standing == null) {
      return List.of();
    }
    return standing.audit() == null
        ? List.of(new Drift("its settings cannot be read: " + standing.problem(), false))
        : standing.audit().lines().stream()
            .filter(l -> l.put() != null)
            .map(l -> new Drift(l.words(), l.standing() == SettingsAudit.Standing.OFF))
            .toList();
  }

  private boolean here(String path) {
    return places.all().stream()
        .filter(x -> x.path().equals(Path.of(path)))
        .anyMatch(presence::wasHere);
  }
}
