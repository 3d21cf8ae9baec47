package dev.kavrin.server.backup;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.Reach;
import dev.kavrin.server.platform.PathGuard;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.UUID;

/**
 * Whether the work that a journal tells of can be looked at: it must lie under an allowed root, and
 * its project's folder must be there with its marker.
 */
final class WorkReach implements Reach {
  private final Disk disk;
  private final History history;
  private final PathGuard guard;

  WorkReach(Disk disk, History history, PathGuard guard) {
    this.disk = disk;
    this.history = history;
    this.guard = guard;
  }

  @Override
  public Answer of(UUID document, Path file) throws IOException {
    if (!mayTouch(file)) {
      return Answer.FORBIDDEN;
    }
    Optional<Path> work =
        history
            .document(document)
            .map(JournalEntry.DocumentSet::project)
            .flatMap(history::project)
            .map(ProjectRecord::folder)
            .map(Path::of)
            .filter(file::startsWith);
    boolean here =
        work.isPresent()
            ? FolderMarker.read(disk, work.get()).isPresent()
            : disk.facts(standing(file)).isPresent();
    return here ? Answer.HERE : Answer.AWAY;
  }

  /** A file elsewhere is looked for where its folder stands; Kavrin's own below it may be gone. */
  private static Path standing(Path file) {
    Path folder = file.getParent();
    return folder.endsWith(Path.of(FolderMarker.FOLDER, "aside"))
        ? folder.getParent().getParent()
        : folder;
  }

  private boolean mayTouch(Path file) {
    return file.equals(file.normalize()) && guard.allows(file);
  }

  /** True if a project named by a journal may be watched. */
  static boolean mayWatch(PathGuard guard, ProjectRecord project) {
    Path folder = Path.of(project.folder());
    return folder.equals(folder.normalize()) && guard.allows(folder);
  }
}
