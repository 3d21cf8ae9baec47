package dev.kavrin.server.overview;

import dev.kavrin.server.capture.JournalFollower;
import dev.kavrin.server.incident.DeskService;
import dev.kavrin.server.incident.IncidentService;
import dev.kavrin.server.place.FolderCheck;
import dev.kavrin.server.place.Place;
import dev.kavrin.server.place.PlaceRole;
import dev.kavrin.server.place.PlaceService;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.trail.TrailService;
import dev.kavrin.server.trail.TrailView;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** One page over everything: what would be lost now, what asks for somebody. */
@RestController
class OverviewController {
  private final ProjectService projects;
  private final TrailService trails;
  private final IncidentService incidents;
  private final DeskService desks;
  private final PlaceService places;
  private final JournalFollower follower;

  OverviewController(
      ProjectService projects,
      TrailService trails,
      IncidentService incidents,
      DeskService desks,
      PlaceService places,
      JournalFollower follower) {
    this.projects = projects;
    this.trails = trails;
    this.incidents = incidents;
    this.desks = desks;
    this.places = places;
    this.follower = follower;
  }

  /**
   * @param newestCopy when the work in the newest copy of Kavrin's was done
   */
  record DocumentLine(
      UUID id,
      String name,
      String path,
      TrailView.Exposure exposure,
      @Nullable TrailView.Live live,
      @Nullable Instant newestCopy,
      int states,
      int copies,
      long bytes,
      @Nullable IncidentService.Incident incident,
      @Nullable Long lostSeconds) {}

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
      int keep,
      List<DocumentLine> documents,
      List<String> cautions) {}

  record OverviewView(List<ProjectLine> projects, List<String> disagreements) {}

  record PlaceLine(
      UUID id,
      String path,
      PlaceRole role,
      boolean here,
      long free,
      String disk,
      List<String> cautions,
      List<String> serves,
      int copies,
      long bytes) {}

  @GetMapping("/api/overview")
  @Transactional(readOnly = true)
  OverviewView overview() {
    return new OverviewView(
        projects.all().stream().map(this::line).toList(), follower.disagreements());
  }

  /** The person has looked at journals that do not fit the records. */
  @PostMapping("/api/journals/accept")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @ApiResponse(responseCode = "204")
  void accept() {
    follower.acceptJournals();
  }

  private ProjectLine line(ProjectService.Project p) {
    List<IncidentService.Incident> open =
        incidents.of(p.id()).stream().filter(IncidentService.Incident::open).toList();
    List<DocumentLine> lines = new ArrayList<>();
    boolean runs = false;
    for (Document d : projects.documents(p.id())) {
      TrailView view = trails.trail(d.id());
      runs |= view.exposure().programRuns();
      lines.add(line(d, view, open));
    }
    boolean workHere = here(p.folder());
    boolean recoveryHere = here(p.recovery());
    return new ProjectLine(
        p.id(),
        p.name(),
        p.folder(),
        p.recovery(),
        p.program().name(),
        runs,
        workHere,
        recoveryHere,
        p.plan().interval().toSeconds(),
        p.plan().keep().newest(),
        lines,
        cautions(p, workHere, recoveryHere));
  }

  private DocumentLine line(Document d, TrailView view, List<IncidentService.Incident> open) {
    List<TrailView.CopyView> ours =
        view.states().stream()
            .flatMap(s -> s.copies().stream())
            .filter(c -> c.kind().equals("CAPTURE") || c.kind().equals("SECURED"))
            .toList();
    long bytes =
        view.states().stream()
            .mapToLong(s -> s.size() * s.copies().stream().filter(ours::contains).count())
            .sum();
    Instant newest =
        ours.stream().map(TrailView.CopyView::modified).max(Instant::compareTo).orElse(null);
    IncidentService.Incident incident =
        open.stream().filter(i -> i.documents().contains(d.id())).findFirst().orElse(null);
    Long lost = incident == null ? null : desks.lostSeconds(view).orElse(null);
    return new DocumentLine(
        d.id(),
        d.path(),
        d.live().toString(),
        view.exposure(),
        view.live(),
        newest,
        view.states().size(),
        ours.size(),
        bytes,
        incident,
        lost);
  }

  private boolean here(String path) {
    return places.all().stream()
        .filter(x -> x.path().equals(Path.of(path)))
        .anyMatch(places::isHere);
  }

  private List<String> cautions(ProjectService.Project p, boolean workHere, boolean recoveryHere) {
    if (!workHere) {
      return List.of(p.folder() + " is away. Nothing is called missing there.");
    }
    if (!recoveryHere) {
      return List.of(p.recovery() + " is away: no copies are made until it is back.");
    }
    try {
      FolderCheck check = places.check(p.recovery(), PlaceRole.RECOVERY, p.folder());
      List<String> all = new ArrayList<>(check.faults());
      all.addAll(check.cautions());
      return all;
    } catch (IOException unreadable) {
      return List.of(p.recovery() + ": " + unreadable.getMessage());
    }
  }

  @GetMapping("/api/places")
  @Transactional(readOnly = true)
  List<PlaceLine> places() {
    List<ProjectService.Project> all = projects.all();
    return places.all().stream().map(p -> line(p, all)).toList();
  }

  private PlaceLine line(Place place, List<ProjectService.Project> all) {
    String path = place.path().toString();
    boolean recovery = place.role() == PlaceRole.RECOVERY;
    List<ProjectService.Project> served =
        all.stream().filter(p -> (recovery ? p.recovery() : p.folder()).equals(path)).toList();
    boolean here = places.isHere(place);
    FolderCheck check = null;
    try {
      String work = recovery && !served.isEmpty() ? served.get(0).folder() : null;
      check = here ? places.check(path, place.role(), work) : null;
    } catch (IOException | RuntimeException unreadable) {
      here = false;
    }
    int copies = 0;
    long bytes = 0;
    for (ProjectService.Project p : recovery ? served : List.<ProjectService.Project>of()) {
      for (DocumentLine d : line(p).documents()) {
        copies += d.copies();
        bytes += d.bytes();
      }
    }
    return new PlaceLine(
        place.uuid(),
        path,
        place.role(),
        here,
        check == null ? 0 : check.free(),
        check == null ? "" : check.disk(),
        check == null ? List.of() : check.cautions(),
        served.stream().map(ProjectService.Project::name).toList(),
        copies,
        bytes);
  }
}
