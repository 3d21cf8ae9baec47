package dev.kavrin.server.layout;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.LinkedFrom;
import dev.kavrin.core.layout.FolderLayout;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.project.ProjectService;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.nio.file.Path;
import java.security.Principal;
import java.time.InstantSource;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The folder layout of a project: looked at, made, never enforced. No file is moved. */
@RestController
class LayoutController {
  private final ProjectService projects;
  private final PathGuard guard;
  private final Disk disk;
  private final InstantSource clock;

  LayoutController(ProjectService projects, PathGuard guard, Disk disk, InstantSource clock) {
    this.projects = projects;
    this.guard = guard;
    this.disk = disk;
    this.clock = clock;
  }

  record LayoutRequest(@NotNull @Size(max = 20_000) String text) {}

  /**
   * A file in the wrong branch.
   *
   * @param breaks documents whose links to it would break if it were moved
   */
  record Misfiled(String path, String belongs, List<String> breaks) {}

  /**
   * How a layout and the folder compare.
   *
   * @param own false while the standard one is shown
   * @param missing folders that would be made
   */
  record LayoutView(String text, boolean own, List<String> missing, List<Misfiled> misfiled) {}

  @GetMapping("/api/projects/{id}/layout")
  LayoutView layout(@PathVariable UUID id) throws IOException {
    History history = projects.kept(id).folder().history();
    return view(id, history.layout(id).orElse(FolderLayout.STANDARD));
  }

  /** Compares a layout that is not set yet; nothing is changed. */
  @PostMapping("/api/projects/{id}/layout/preview")
  LayoutView preview(@PathVariable UUID id, @Valid @RequestBody LayoutRequest r)
      throws IOException {
    return view(id, r.text());
  }

  /** Sets the layout and makes the folders that are missing. */
  @PutMapping("/api/projects/{id}/layout")
  LayoutView make(@PathVariable UUID id, @Valid @RequestBody LayoutRequest r, Principal who)
      throws IOException {
    FolderLayout layout = FolderLayout.parse(r.text());
    Kept kept = projects.kept(id);
    Path project = guard.folder(kept.project().folder());
    for (String folder : layout.missing(disk, project)) {
      disk.makeFolders(guard.target(project.resolve(folder).toString()));
    }
    kept.folders().record(new JournalEntry.LayoutSet(clock.instant(), id, who.getName(), r.text()));
    return view(id, r.text());
  }

  private LayoutView view(UUID id, String text) throws IOException {
    FolderLayout layout = FolderLayout.parse(text);
    Kept kept = projects.kept(id);
    History history = kept.folder().history();
    Path project = guard.folder(kept.project().folder());
    return new LayoutView(
        text,
        history.layout(id).isPresent(),
        layout.missing(disk, project),
        layout.misfiled(disk, project).stream()
            .map(m -> new Misfiled(m.path(), m.belongs(), breaks(history, id, m.path())))
            .toList());
  }

  /** Those that lean on it, and the file itself if it leans on others by where it lies. */
  private static List<String> breaks(History history, UUID project, String path) {
    boolean leans =
        history.documents(project).stream()
            .filter(d -> d.path().equals(path))
            .flatMap(d -> history.captures(d.id()).stream())
            .anyMatch(c -> !history.leansOn(c.document(), c.state()).isEmpty());
    return Stream.concat(
            LinkedFrom.documents(history, project, path).stream(),
            leans ? Stream.of(path) : Stream.empty())
        .distinct()
        .toList();
  }
}
