package dev.kavrin.server.incident;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.backup.JournalListener;
import dev.kavrin.server.project.ProjectService;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Incidents, from the journals. */
@Component
@Order(3)
class IncidentRecords implements JournalListener {
  private final ObjectProvider<ProjectService> projects;
  private final IncidentRow.Repository incidents;

  IncidentRecords(ObjectProvider<ProjectService> projects, IncidentRow.Repository incidents) {
    this.projects = projects;
    this.incidents = incidents;
  }

  @Override
  public void apply(long recoveryPlace, JournalEntry entry) {
    if (entry instanceof JournalEntry.IncidentSet e) {
      IncidentRow row = incidents.findByUuid(e.id()).orElseGet(IncidentRow::new);
      row.uuid = e.id();
      row.projectId = projects.getObject().key(e.project());
      row.documents = JsonMapper.shared().writeValueAsString(e.documents());
      row.spanFrom = e.from();
      row.spanTo = e.to();
      row.kind = e.kind();
      row.evidence = JsonMapper.shared().writeValueAsString(e.evidence());
      row.open = e.open();
      incidents.save(row);
    }
  }
}
