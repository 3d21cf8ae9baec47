package dev.kavrin.server.backup;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** Moves a project's backups out of a folder it leaves, a helping at a time. */
final class FolderMoves {
  private static final String MOVED = "Kavrin, the move being done";

  private FolderMoves() {}

  /** A helping of moving out; once nothing is left there, the folder serves no longer. */
  static void goOn(Kept kept, Clockwork clock) throws IOException {
    ProjectRecord project = kept.project();
    BackupFolder leaving =
        Optional.ofNullable(project.leaving())
            .flatMap(root -> kept.folders().at(Path.of(root)))
            .orElse(null);
    if (leaving == null
        || !kept.folders().standBack(leaving, "its copies are being moved to the others")
        || !kept.retention().leave(leaving, project)) {
      return;
    }
    List<String> rest =
        project.recoveries().stream().filter(r -> !r.equals(project.leaving())).toList();
    ProjectRecord changed = project.keptIn(rest, null);
    kept.folders().record(new JournalEntry.ProjectSet(clock.instant(), MOVED, changed));
    leaving.record(new JournalEntry.Left(clock.instant(), project.id()));
    kept.folders().remove(leaving);
    kept.watch().change(changed);
  }
}
