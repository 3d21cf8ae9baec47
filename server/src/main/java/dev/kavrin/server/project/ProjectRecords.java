package dev.kavrin.server.project;

import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.server.backup.JournalListener;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Projects and documents, from the journals. */
@Component
@Order(1)
class ProjectRecords implements JournalListener {
  static final JsonMapper MAPPER = Journal.MAPPER;

  private final ProjectRows projects;
  private final DocumentRows documents;
  private final FolderService places;

  ProjectRecords(ProjectRows projects, DocumentRows documents, FolderService places) {
    this.projects = projects;
    this.documents = documents;
    this.places = places;
  }

  @Override
  public void before(JournalEntry entry) {
    if (entry instanceof JournalEntry.ProjectSet e) {
      Path work = Path.of(e.project().folder());
      if (places.byPath(work).isEmpty()) {
        places.expect(work, FolderRole.WORK);
      }
    }
  }

  @Override
  public void apply(long recoveryPlace, JournalEntry entry) {
    if (entry instanceof JournalEntry.ProjectSet e) {
      save(recoveryPlace, e);
    } else if (entry instanceof JournalEntry.DocumentSet e) {
      documents
          .findByUuid(e.id())
          .orElseGet(
              () -> {
                DocumentRow row = new DocumentRow();
                row.uuid = e.id();
                row.projectId = projects.findByUuid(e.project()).orElseThrow().id;
                row.relPath = e.path();
                row.linked = e.linked();
                return documents.save(row);
              });
    }
  }

  private void save(long recoveryPlace, JournalEntry.ProjectSet entry) {
    ProjectRecord project = entry.project();
    ProjectRow row = projects.findByUuid(project.id()).orElseGet(ProjectRow::new);
    if (row.changed != null && !isLater(entry.at(), row.changed)) {
      return;
    }
    row.uuid = project.id();
    row.name = project.name();
    row.slug = project.slug();
    row.workPlaceId = places.byPath(Path.of(project.folder())).orElseThrow().key();
    row.recoveryPlaceId =
        places.byPath(Path.of(project.recovery())).map(Folder::key).orElse(recoveryPlace);
    row.also = MAPPER.writeValueAsString(project.also());
    row.leaving = project.leaving();
    row.rule = MAPPER.writeValueAsString(project.rule());
    row.sets = project.sets() == null ? null : MAPPER.writeValueAsString(project.sets());
    row.program = MAPPER.writeValueAsString(project.program());
    row.plan = MAPPER.writeValueAsString(project.plan());
    row.exceptions = MAPPER.writeValueAsString(project.exceptions());
    row.version++;
    row.changedBy = entry.who();
    row.changed = entry.at();
    projects.save(row);
  }

  /** Each recovery folder tells the same change; the records keep microseconds only. */
  private static boolean isLater(Instant told, Instant known) {
    return told.truncatedTo(ChronoUnit.MILLIS).isAfter(known.truncatedTo(ChronoUnit.MILLIS));
  }
}
