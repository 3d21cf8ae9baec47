package dev.kavrin.server.restore;

import dev.kavrin.core.store.JournalEntry;
import dev.kavrin.server.capture.JournalListener;
import dev.kavrin.server.project.ProjectService;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Receipts, from the journals. */
@Component
@Order(3)
class RestoreRecords implements JournalListener {
  private final ObjectProvider<ProjectService> projects;
  private final ReceiptRow.Repository receipts;

  RestoreRecords(ObjectProvider<ProjectService> projects, ReceiptRow.Repository receipts) {
    this.projects = projects;
    this.receipts = receipts;
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
    }
  }
}
