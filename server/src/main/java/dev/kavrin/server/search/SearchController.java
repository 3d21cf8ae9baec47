package dev.kavrin.server.search;

import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.NameGuess;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.StrayService;
import dev.kavrin.server.version.StrayService.Stray;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.nio.file.Path;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Looking everywhere at once, and what that found. */
@RestController
class SearchController {
  private final SearchService searches;
  private final StrayService strays;
  private final FolderService places;
  private final ProjectService projects;
  private final SnapshotFolders snapshots;
  private final StoreIntake intake;

  SearchController(
      SearchService searches,
      StrayService strays,
      FolderService places,
      ProjectService projects,
      SnapshotFolders snapshots,
      StoreIntake intake) {
    this.intake = intake;
    this.snapshots = snapshots;
    this.searches = searches;
    this.strays = strays;
    this.places = places;
    this.projects = projects;
  }

  /**
   * How searching stands.
   *
   * @param latest null if none ever ran
   * @param snapshots folders with snapshots of the disks the work lies on that are not looked into
   */
  record SearchView(@Nullable Search latest, List<Stray> strays, List<String> snapshots) {}

  @GetMapping("/api/search")
  SearchView search() {
    return new SearchView(searches.latest(), strays.all(), snapshots.notLookedInto());
  }

  @PostMapping("/api/search")
  @ResponseStatus(HttpStatus.ACCEPTED)
  Search begin(Principal who) {
    return searches.begin(who.getName());
  }

  @DeleteMapping("/api/search")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @ApiResponse(responseCode = "204")
  void cancel() {
    searches.cancel();
  }

  record DecideRequest(boolean accepted) {}

  @PostMapping("/api/strays/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @ApiResponse(responseCode = "204")
  void decide(@PathVariable UUID id, @RequestBody DecideRequest request, Principal who)
      throws IOException {
    strays.decide(id, request.accepted(), who.getName());
  }

  /** Fetches what was found in a store, and takes it in as a version. */
  @PostMapping("/api/strays/{id}/take-in")
  @ResponseStatus(HttpStatus.ACCEPTED)
  Job takeIn(@PathVariable UUID id, Principal who) {
    return intake.begin(id, who.getName());
  }

  record LookInRequest(@NotBlank String path) {}

  /** Adds a folder that is looked through too; nothing is written there. */
  @PostMapping("/api/search/folders")
  @ResponseStatus(HttpStatus.CREATED)
  void lookIn(@Valid @RequestBody LookInRequest request) throws IOException {
    places.lookInto(request.path());
  }

  /**
   * @param names of copies, as pasted
   */
  record NamesRequest(@NotEmpty @Size(max = 50) List<@NotBlank String> names) {}

  /**
   * What pasted names seem to be made by.
   *
   * @param document whose name stands in them
   * @param pattern that fits all of them that name that document
   * @param fits how many of the names it fits
   */
  record NamesGuess(String document, String pattern, int fits) {}

  /** Proposes patterns for names of copies, the one that fits most first. */
  @PostMapping("/api/programs/names")
  List<NamesGuess> names(@Valid @RequestBody NamesRequest request) {
    List<NamesGuess> guesses = new ArrayList<>();
    List<String> names =
        request.names().stream().map(n -> n.strip().replaceFirst("^.*/", "")).toList();
    for (ProjectService.Project project : projects.all()) {
      for (Document document : projects.documents(project.id())) {
        String own = Path.of(document.path()).getFileName().toString();
        names.stream()
            .flatMap(n -> NameGuess.of(n, own, false).stream())
            .map(NamePattern::toString)
            .distinct()
            .forEach(p -> guesses.add(new NamesGuess(document.path(), p, fits(p, names))));
      }
    }
    guesses.sort((a, b) -> Integer.compare(b.fits(), a.fits()));
    return guesses;
  }

  private static int fits(String pattern, List<String> names) {
    NamePattern made = NamePattern.of(pattern);
    return (int) names.stream().map(made::parse).filter(Optional::isPresent).count();
  }
}
