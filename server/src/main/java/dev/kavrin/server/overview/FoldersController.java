package dev.kavrin.server.overview;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.plan.Fit;
import dev.kavrin.core.watch.FolderHours;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderCheck;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.room.FreeRoom;
import dev.kavrin.server.version.Summaries;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Where everything lies, how full it is, when Kavrin may work there. */
@RestController
class FoldersController {
  private final ProjectService projects;
  private final FolderService places;
  private final Summaries summaries;
  private final Engine engine;
  private final FreeRoom room;

  FoldersController(
      ProjectService projects,
      FolderService places,
      Summaries summaries,
      Engine engine,
      FreeRoom room) {
    this.projects = projects;
    this.places = places;
    this.summaries = summaries;
    this.engine = engine;
    this.room = room;
  }

  /**
   * @param project whose work lies there, null for a recovery folder
   * @param holdings what lies there of each project that keeps copies there
   * @param differences what is different there from a folder that can do everything, in words
   * @param limits what it is too full or too slow for, in words
   * @param rests why Kavrin does not work there now, null if it does
   * @param clockAheadSeconds how far the clock of its server is ahead of this machine's, 0 if it
   *     agrees or was not measured
   */
  record PlaceLine(
      UUID id,
      String path,
      FolderRole role,
      boolean here,
      long free,
      String disk,
      List<String> cautions,
      List<String> differences,
      List<String> serves,
      @Nullable UUID project,
      int copies,
      long bytes,
      long binBytes,
      List<Holding> holdings,
      List<String> limits,
      @Nullable Instant fullAt,
      FolderHours hours,
      @Nullable String rests,
      long clockAheadSeconds) {}

  /**
   * @param copies that stand there
   * @param bytes they take
   * @param binBytes that dropped ones take until they go for good
   */
  record Holding(String project, int copies, long bytes, long binBytes) {}

  @GetMapping("/api/folders")
  List<PlaceLine> places() {
    List<ProjectService.Project> all = projects.all();
    return places.all().stream().map(p -> line(p, all)).toList();
  }

  private PlaceLine line(Folder place, List<ProjectService.Project> all) {
    String path = place.path().toString();
    boolean recovery = place.role() == FolderRole.RECOVERY;
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
    List<Holding> holdings = recovery ? holdings(place, served) : List.of();
    return new PlaceLine(
        place.uuid(),
        path,
        place.role(),
        here,
        check == null ? 0 : check.free(),
        check == null ? "" : check.disk(),
        check == null ? List.of() : check.cautions(),
        check == null ? List.of() : check.differences(),
        served.stream().map(ProjectService.Project::name).toList(),
        recovery || served.isEmpty() ? null : served.get(0).id(),
        holdings.stream().mapToInt(Holding::copies).sum(),
        holdings.stream().mapToLong(Holding::bytes).sum(),
        holdings.stream().mapToLong(Holding::binBytes).sum(),
        holdings,
        recovery && check != null ? limits(place, served, check.free()) : List.of(),
        check == null ? null : fullAt(place, check.free()),
        engine.hours().of(place.path()),
        engine.hours().why(place.path()).orElse(null),
        here && recovery ? clockAhead(place) : 0);
  }

  /** As everybody's writes fill it, where that was seen; else as Kavrin's own do. */
  @Nullable
  private Instant fullAt(Folder place, long free) {
    return room.fullAt(place.path(), free).or(() -> summaries.fullAt(place, free)).orElse(null);
  }

  private List<Holding> holdings(Folder place, List<ProjectService.Project> served) {
    List<Holding> holdings = new ArrayList<>();
    for (ProjectService.Project project : served) {
      engine.project(project.id()).stream()
          .flatMap(k -> k.folders().all().stream())
          .filter(f -> f.root().equals(place.path()))
          .map(f -> holding(project, f.history()))
          .forEach(holdings::add);
    }
    return holdings;
  }

  private static Holding holding(ProjectService.Project project, History history) {
    Set<UUID> documents =
        history.documents(project.id()).stream()
            .map(JournalEntry.DocumentSet::id)
            .collect(Collectors.toSet());
    List<BackupRecord> standing =
        documents.stream().flatMap(d -> history.captures(d).stream()).toList();
    return new Holding(
        project.name(),
        standing.size(),
        standing.stream().mapToLong(history::stored).sum(),
        history.bin().stream()
            .filter(b -> documents.contains(b.capture().document()))
            .mapToLong(history::stored)
            .sum());
  }

  private List<String> limits(Folder place, List<ProjectService.Project> served, long free) {
    Long rate = null;
    List<Fit.Load> loads = new ArrayList<>();
    for (ProjectService.Project project : served) {
      Kept kept = engine.project(project.id()).orElse(null);
      if (kept == null) {
        continue;
      }
      Map<UUID, String> names =
          projects.documents(project.id()).stream()
              .collect(Collectors.toMap(Document::id, Document::path));
      kept.watch().status().stream()
          .filter(s -> names.containsKey(s.document()))
          .map(
              s ->
                  new Fit.Load(
                      names.get(s.document()), s.size(), project.planFor(s.document()).interval()))
          .forEach(loads::add);
      for (BackupFolder folder : kept.folders().all()) {
        OptionalLong measured = kept.folders().rate(folder);
        if (folder.root().equals(place.path()) && measured.isPresent()) {
          rate = measured.getAsLong();
        }
      }
    }
    return new Fit(free, rate).limits(loads);
  }

  private long clockAhead(Folder place) {
    try {
      for (BackupFolder folder : engine.folders()) {
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
  @PutMapping("/api/folders/{id}/hours")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @ApiResponse(responseCode = "204")
  void setHours(@PathVariable UUID id, @Valid @RequestBody FolderHours hours) throws IOException {
    Folder place =
        places.all().stream()
            .filter(p -> p.uuid().equals(id))
            .findFirst()
            .orElseThrow(() -> ProblemException.notFound("No such folder: " + id + "."));
    engine.hours().set(place.path(), hours);
  }
}
