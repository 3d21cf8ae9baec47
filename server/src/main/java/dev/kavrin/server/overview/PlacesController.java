package dev.kavrin.server.overview;

import dev.kavrin.core.store.PlaceHours;
import dev.kavrin.core.store.RecoveryFolder;
import dev.kavrin.server.capture.Engine;
import dev.kavrin.server.place.FolderCheck;
import dev.kavrin.server.place.Place;
import dev.kavrin.server.place.PlaceRole;
import dev.kavrin.server.place.PlaceService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.trail.Summaries;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Where everything lies, how full it is, when Kavrin may work there. */
@RestController
class PlacesController {
  private final ProjectService projects;
  private final PlaceService places;
  private final Summaries summaries;
  private final Engine engine;

  PlacesController(
      ProjectService projects, PlaceService places, Summaries summaries, Engine engine) {
    this.projects = projects;
    this.places = places;
    this.summaries = summaries;
    this.engine = engine;
  }

  /**
   * @param project whose work lies there, null for a recovery folder
   * @param rests why Kavrin does not work there now, null if it does
   * @param clockAheadSeconds how far the clock of its server is ahead of this machine's, 0 if it
   *     agrees or was not measured
   */
  record PlaceLine(
      UUID id,
      String path,
      PlaceRole role,
      boolean here,
      long free,
      String disk,
      List<String> cautions,
      List<String> serves,
      @Nullable UUID project,
      int copies,
      long bytes,
      @Nullable Instant fullAt,
      PlaceHours hours,
      @Nullable String rests,
      long clockAheadSeconds) {}

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
        all.stream().filter(p -> recovery ? p.keepsIn(path) : p.folder().equals(path)).toList();
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
      for (Summaries.Summary d : summaries.of(p, projects.documents(p.id())).values()) {
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
        recovery || served.isEmpty() ? null : served.get(0).id(),
        copies,
        bytes,
        check == null ? null : summaries.fullAt(place, check.free()).orElse(null),
        engine.hours().of(place.path()),
        engine.hours().why(place.path()).orElse(null),
        here && recovery ? clockAhead(place) : 0);
  }

  private long clockAhead(Place place) {
    try {
      for (RecoveryFolder folder : engine.folders()) {
        if (folder.root().equals(place.path())) {
          return folder.clockAhead().toSeconds();
        }
      }
      return 0;
    } catch (IOException away) {
      return 0;
    }
  }

  /** Says when and how fast Kavrin may work in a place. */
  @PutMapping("/api/places/{id}/hours")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @ApiResponse(responseCode = "204")
  void setHours(@PathVariable UUID id, @Valid @RequestBody PlaceHours hours) throws IOException {
    Place place =
        places.all().stream()
            .filter(p -> p.uuid().equals(id))
            .findFirst()
            .orElseThrow(() -> ProblemException.notFound("No such place: " + id + "."));
    engine.hours().set(place.path(), hours);
  }
}
