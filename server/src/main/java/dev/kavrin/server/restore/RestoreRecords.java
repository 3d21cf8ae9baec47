package dev.kavrin.server.restore;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.backup.JournalListener;
import dev.kavrin.server.project.ProjectService;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Receipts and groups of them, from the journals. */
@Component
@Order(3)
class RestoreRecords implements JournalListener {
  private final ObjectProvider<ProjectService> projects;
  private final ReceiptRow.Repository receipts;

  private final GroupRow.Repository groups;

  RestoreRecords(
      ObjectProvider<ProjectService> projects,
      ReceiptRow.Repository receipts,
      GroupRow.Repository groups) {
    this.projects = projects;
    this.receipts = receipts;
    this.groups = groups;
  }

  @Override
  public void apply(long recoveryPlace, JournalEntry entry) {
    if (entry instanceof JournalEntry.Restored e && receipts.findByUuid(e.op()).isEmpty()) {
      ReceiptRow row = new ReceiptRow();
      row.uuid = e.op();
      row.documentId = projects.getObject().document(e.receipt().document()).key();
      row.made = e.at();
      row.body = JsonMapper.shared().writeValueAsString(e.receipt());
      receipts.save(row);
    } else if (entry instanceof JournalEntry.GroupMeant e
        && groups.findByUuid(e.group()).isEmpty()) {
      GroupRow row = new GroupRow();
      row.uuid = e.group();
      row.projectId = projects.getObject().key(e.project());
      row.made = e.at();
      row.who = e.who();
      row.what = e.what();
      row.ops = JsonMapper.shared().writeValueAsString(e.ops());
      row.undoes = e.undoes();
      groups.save(row);
    } else if (entry instanceof JournalEntry.GroupEnded e) {
      GroupRow row = groups.findByUuid(e.group()).orElseThrow();
      row.done = e.done();
      row.told = e.told();
      groups.save(row);
    }
  }
}
