package dev.kavrin.server.recoverytest;

import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalEntry.Rehearsed;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.JournalListener;
import dev.kavrin.server.project.AllDocuments;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** The records of rehearsals, from the journals. */
@Component
@Order(3)
class RecoveryTests implements JournalListener {
  private final ObjectProvider<ProjectService> projects;
  private final ObjectProvider<JournalFollower> follower;
  private final AllDocuments documents;
  private final RecoveryTestRow.Repository rows;

  RecoveryTests(
      ObjectProvider<ProjectService> projects,
      ObjectProvider<JournalFollower> follower,
      AllDocuments documents,
      RecoveryTestRow.Repository rows) {
    this.projects = projects;
    this.follower = follower;
    this.documents = documents;
    this.rows = rows;
  }

  @Override
  public void apply(long recoveryPlace, JournalEntry entry) {
    if (entry instanceof Rehearsed e) {
      Document document = projects.getObject().document(e.document());
      RecoveryTestRow row = rows.findByUuid(e.id()).orElseGet(RecoveryTestRow::new);
      row.uuid = e.id();
      row.documentId = document.key();
      row.projectId = projects.getObject().key(document.project());
      row.made = e.at();
      row.body = Journal.MAPPER.writeValueAsString(e);
      rows.save(row);
    }
  }

  void record(Rehearsed entry) throws IOException {
    ProjectService all = projects.getObject();
    all.kept(all.document(entry.document()).project()).folders().record(entry);
    follower.getObject().follow();
  }

  /** Newest first. */
  List<Rehearsed> ofDocument(UUID document) {
    return read(
        rows.findByDocumentIdOrderByMadeDesc(projects.getObject().document(document).key()));
  }

  /** Newest first. */
  List<Rehearsed> ofProject(UUID project) {
    return read(rows.findByProjectIdOrderByMadeDesc(projects.getObject().key(project)));
  }

  /** Those of all projects, by project, the newest first. */
  Map<UUID, List<Rehearsed>> all() {
    List<RecoveryTestRow> made = rows.findAllByOrderByMadeDesc();
    Map<Long, UUID> uuids = documents.projects();
    return made.stream()
        .collect(
            Collectors.groupingBy(
                r -> uuids.get(r.projectId),
                Collectors.mapping(RecoveryTests::read, Collectors.toList())));
  }

  private static Rehearsed read(RecoveryTestRow row) {
    return Journal.MAPPER.readValue(row.body, Rehearsed.class);
  }

  private static List<Rehearsed> read(List<RecoveryTestRow> rows) {
    return rows.stream().map(RecoveryTests::read).toList();
  }
}
