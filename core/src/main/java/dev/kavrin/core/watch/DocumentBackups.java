package dev.kavrin.core.watch;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.backup.BackupOrder.How;
import dev.kavrin.core.backup.LinkedFiles;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.content.Reducer;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.WholeLines;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * Makes the backups of live files, and of what those use; then drops what the plan no longer keeps.
 */
final class DocumentBackups {
  private final BackupMaker maker;
  private final Retention retention;
  private final LinkedFiles links;
  private final Lightening lightening;
  private final Clockwork clock;

  DocumentBackups(
      Disk disk, BackupFolders folders, BackupMaker maker, Retention retention, Clockwork clock) {
    this.maker = maker;
    this.retention = retention;
    this.links = new LinkedFiles(disk, folders, maker, clock);
    this.lightening = new Lightening(disk, folders);
    this.clock = clock;
  }

  /**
   * Makes the one that is due. Never throws: what goes wrong is told of the document.
   *
   * @param unsettled it has waited so long that it is made although the file does not rest
   * @return files that joined
   */
  List<DocumentSet> due(ProjectRecord project, Watched document, boolean unsettled) {
    List<DocumentSet> joined = new ArrayList<>();
    FileFacts seen = document.seen();
    try {
      if (seen != null) {
        make(project, document, unsettled, joined::addAll);
      }
    } catch (SourceException.Damaged damaged) {
      document.refuse(seen, damaged.getMessage());
    } catch (SourceException.StillWritten moving) {
      document.moved(clock);
    } catch (IOException failed) {
      document.problem(failed.getMessage());
    }
    return joined;
  }

  private void make(
      ProjectRecord project,
      Watched document,
      boolean unsettled,
      Consumer<List<DocumentSet>> joined)
      throws IOException {
    Path live = live(project, document);
    Optional<String> asked = document.awaitedWriteCame();
    if (unsettled && WholeLines.growBy(live.toString())) {
      take(document, BackupOrder.ofGrowing(project, document.id(), live), joined);
      return;
    }
    Optional<Reducer> reducer =
        asked.isPresent() || unsettled
            ? Optional.empty()
            : lightening.next(
                project.planFor(document.id()).forKind(ending(document)).light(),
                live,
                document.id());
    if (reducer.isPresent()) {
      take(document, BackupOrder.ofLight(project, document.id(), live, reducer.get()), joined);
      return;
    }
    How how = unsettled ? How.EVEN_MOVING : How.CAREFULLY;
    String cause = asked.isPresent() ? "next write" : "due";
    take(
        document,
        BackupOrder.ofLive(project, document.id(), live, cause, how)
            .noted(asked.filter(note -> !note.isEmpty()).orElse(null)),
        joined);
    if (asked.isPresent()) {
      document.stopAsking();
    }
  }

  /** Makes one of what stands there now, whatever its health. */
  BackupMaker.Result now(
      ProjectRecord project,
      Watched document,
      String cause,
      String note,
      Consumer<List<DocumentSet>> joined)
      throws IOException {
    Path live = live(project, document);
    BackupOrder order =
        BackupOrder.ofLive(project, document.id(), live, cause, How.ANY_HEALTH).noted(note);
    return take(document, order, joined);
  }

  private BackupMaker.Result take(
      Watched document, BackupOrder order, Consumer<List<DocumentSet>> joined) throws IOException {
    FileFacts then = document.seen();
    BackupMaker.Result result = maker.capture(order);
    document.problem(null);
    if (result.capture().settled() && then != null) {
      document.copied(then, clock);
    }
    if (result.made()) {
      try {
        joined.accept(links.follow(order.project(), document.id(), order.source(), result));
      } finally {
        retention.apply(order.project(), document.id());
      }
    }
    return result;
  }

  private static Path live(ProjectRecord project, Watched document) {
    return Path.of(project.folder()).resolve(document.path());
  }

  private static String ending(Watched document) {
    return FileName.of(document.path()).lowerExt();
  }
}
