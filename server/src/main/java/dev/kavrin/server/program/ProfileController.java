package dev.kavrin.server.program;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.Surroundings;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.watch.Discovery;
import dev.kavrin.server.platform.IfMatch;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.project.ProjectService.Project;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.nio.file.Path;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Program sheets on their own: handed on, taken from others, tried against what lies on disk. */
@RestController
class ProfileController {
  private static final String KIND = "kavrin-program-sheet";
  private static final int SHOWN = 5;
  private static final int TRIED = 200;

  private final ProjectService projects;
  private final PathGuard guard;
  private final Disk disk;

  ProfileController(ProjectService projects, PathGuard guard, Disk disk) {
    this.projects = projects;
    this.guard = guard;
    this.disk = disk;
  }

  /** A sheet as a file. */
  record SharedSheet(@NotBlank String kind, int version, @NotNull ProgramProfile sheet) {}

  /**
   * What taking a sheet changes.
   *
   * @param outside paths in it that do nothing until each is confirmed
   */
  record SheetDifference(List<String> changes, List<String> outside) {}

  record TakeSheetRequest(@NotNull @Valid SharedSheet shared, @NotNull Set<String> confirmed) {}

  record MatchRequest(
      @NotBlank String folder,
      @NotNull List<@NotBlank String> rule,
      @NotNull List<ProgramProfile.Leftover> leftovers) {}

  /**
   * What a kind of leftover finds now.
   *
   * @param folders the first of those that are there
   * @param files names of the first found, next to the document they belong to
   * @param problem why it cannot find anything, null if it can
   */
  record Matches(List<String> folders, List<String> files, int count, @Nullable String problem) {}

  @GetMapping("/api/projects/{id}/profile")
  ResponseEntity<SharedSheet> export(@PathVariable UUID id) {
    ProgramProfile sheet = projects.byId(id).program();
    String name = sheet.name().replaceAll("[^A-Za-z0-9]+", "-").toLowerCase(java.util.Locale.ROOT);
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"" + name + ".sheet.json\"")
        .body(new SharedSheet(KIND, 1, sheet.asked(null)));
  }

  /** Compares a sheet from elsewhere with the one here; nothing is changed. */
  @PostMapping("/api/projects/{id}/profile/difference")
  SheetDifference difference(@PathVariable UUID id, @Valid @RequestBody TakeSheetRequest request) {
    ImportedProfile imported = imported(id, request.shared());
    return new SheetDifference(imported.changes(request.confirmed()), imported.outside());
  }

  @PutMapping("/api/projects/{id}/profile")
  Project take(
      @PathVariable UUID id,
      @RequestHeader("If-Match") String version,
      @Valid @RequestBody TakeSheetRequest request,
      Principal who)
      throws IOException {
    Project project = projects.byId(id);
    return projects.change(
        id,
        IfMatch.revision(version),
        project.plan(),
        imported(id, request.shared()).taken(request.confirmed()),
        who.getName());
  }

  private ImportedProfile imported(UUID id, SharedSheet shared) {
    if (!shared.kind().equals(KIND) || shared.version() != 1) {
      throw ProblemException.badInput(
          "no-sheet", "That is no program profile of Kavrin. Nothing was changed.");
    }
    return new ImportedProfile(shared.sheet(), projects.byId(id).program());
  }

  /** What each kind of leftover finds beside the documents of a folder. */
  @PostMapping("/api/programs/matches")
  List<Matches> matches(@Valid @RequestBody MatchRequest request) {
    Path work = guard.folder(request.folder());
    List<Path> documents =
        Discovery.look(disk, work, request.rule(), null, ProgramProfile.UNKNOWN)
            .documents()
            .stream()
            .limit(TRIED)
            .toList();
    return request.leftovers().stream().map(l -> matches(l, work, documents)).toList();
  }

  private Matches matches(ProgramProfile.Leftover leftover, Path work, List<Path> documents) {
    Set<String> folders = new TreeSet<>();
    List<String> files = new ArrayList<>();
    int count = 0;
    try {
      guard.folderToMake(
          leftover.folder().fixed(work.resolve("document"), Surroundings.here()).toString());
      for (Path document : documents) {
        for (Path folder : leftover.folder().folders(disk, document, Surroundings.here())) {
          for (Path file : listed(folder)) {
            if (!file.equals(document)
                && leftover.fits(file.getFileName().toString(), document.getFileName().toString())
                && disk.facts(file).filter(FileFacts::isFile).isPresent()) {
              folders.add(folder.toString());
              count++;
              if (files.size() < SHOWN) {
                files.add(file.getFileName() + " (" + document.getFileName() + ")");
              }
            }
          }
        }
      }
      return new Matches(folders.stream().limit(SHOWN).toList(), files, count, null);
    } catch (IllegalArgumentException | ProblemException | IOException unfit) {
      return new Matches(List.of(), List.of(), 0, unfit.getMessage());
    }
  }

  private List<Path> listed(Path folder) {
    try {
      return disk.list(folder).stream().sorted().toList();
    } catch (IOException absent) {
      return List.of();
    }
  }
}
