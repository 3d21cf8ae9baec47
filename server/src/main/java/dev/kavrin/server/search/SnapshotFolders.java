package dev.kavrin.server.search;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.project.ProjectService;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Where file systems show their snapshots as folders (common practice, no source). */
@Component
final class SnapshotFolders {
  private static final List<String> NAMES = List.of(".snapshot", ".snapshots", ".zfs/snapshot");

  private final ProjectService projects;
  private final FolderService folders;
  private final PathGuard guard;
  private final Disk disk;

  SnapshotFolders(ProjectService projects, FolderService folders, PathGuard guard, Disk disk) {
    this.projects = projects;
    this.folders = folders;
    this.guard = guard;
    this.disk = disk;
  }

  /** In and above the work folders, as far up as may be looked; known ones left out. */
  List<String> notLookedInto() {
    Set<String> found = new LinkedHashSet<>();
    for (ProjectService.Project project : projects.all()) {
      for (Path at = Path.of(project.folder());
          at != null && guard.allows(at);
          at = at.getParent()) {
        for (String name : NAMES) {
          Path snapshots = at.resolve(name);
          if (holdsSomething(snapshots) && folders.byPath(snapshots).isEmpty()) {
            found.add(snapshots.toString());
          }
        }
      }
    }
    return List.copyOf(found);
  }

  private boolean holdsSomething(Path folder) {
    try {
      return disk.facts(folder).filter(FileFacts::isFolder).isPresent()
          && !disk.list(folder).isEmpty();
    } catch (IOException unreadable) {
      return false;
    }
  }
}
