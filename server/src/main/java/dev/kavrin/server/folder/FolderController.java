package dev.kavrin.server.folder;

import dev.kavrin.server.platform.PathGuard;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
class FolderController {
  private final FolderService places;
  private final PathGuard guard;
  private final BackupFolderProposals proposals;

  FolderController(FolderService places, PathGuard guard, BackupFolderProposals proposals) {
    this.places = places;
    this.guard = guard;
    this.proposals = proposals;
  }

  record CheckRequest(@NotBlank String path, @NotNull FolderRole role, @Nullable String work) {}

  record FolderView(String path, @Nullable String parent, List<String> folders, int files) {}

  @PostMapping("/api/folders/check")
  FolderCheck check(@Valid @RequestBody CheckRequest request) throws IOException {
    return places.check(request.path(), request.role(), request.work());
  }

  /** Where backups of a work folder could go, the best first; nothing is made. */
  @GetMapping("/api/folders/proposals")
  List<FolderCheck> proposals(@RequestParam String work) {
    return proposals.of(guard.folder(work));
  }

  /** Folders to choose from; without a path the allowed roots. */
  @GetMapping("/api/browse")
  FolderView folders(@RequestParam(required = false) String path) throws IOException {
    if (path == null || path.isBlank()) {
      List<String> roots = guard.roots().stream().map(Path::toString).toList();
      return new FolderView("", null, roots, 0);
    }
    Path folder = guard.folder(path);
    boolean root = guard.roots().stream().anyMatch(r -> r.equals(folder));
    try (var list = Files.list(folder)) {
      List<Path> all = list.sorted().toList();
      List<String> folders =
          all.stream()
              .filter(Files::isDirectory)
              .filter(p -> !p.getFileName().toString().equals(".kavrin"))
              .map(Path::toString)
              .toList();
      return new FolderView(
          folder.toString(),
          root ? "" : folder.getParent().toString(),
          folders,
          all.size() - folders.size());
    }
  }
}
