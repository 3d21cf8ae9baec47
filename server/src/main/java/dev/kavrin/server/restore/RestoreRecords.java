package dev.kavrin.server.restore;

import dev.kavrin.core.journal.FirstRound;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.server.backup.JournalListener;
import dev.kavrin.server.project.ProjectService;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
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
  public void apply(long folder, JournalEntry entry) {
    if (entry instanceof JournalEntry.Begun e
        && e.operation().planned() instanceof Operation.Restore restore
        && restore.group() != null) {
      group(e.at(), e.operation().id(), restore);
    } else if (entry instanceof JournalEntry.Done e
        && e.operation().planned() instanceof Operation.Restore restore) {
      restore.members().forEach(m -> receipt(m.id(), m.receipt(), e.at()));
      ended(e.operation().id(), true, "");
    } else if (entry instanceof JournalEntry.TakenBack e) {
      ended(e.op(), false, "Everything is as it was before: " + e.why());
    } else if (entry instanceof FirstRound.GroupMeant e) {
      group(
          e.at(),
          e.group(),
          new Operation.Group(e.project(), e.who(), e.what(), e.undoes()),
          e.ops());
    } else if (entry instanceof FirstRound.GroupEnded e) {
      ended(e.group(), e.done(), e.told());
    }
  }

  private void receipt(UUID id, JournalEntry.Receipt receipt, Instant at) {
    if (receipts.findByUuid(id).isEmpty()) {
      ReceiptRow row = new ReceiptRow();
      row.uuid = id;
      row.documentId = projects.getObject().document(receipt.document()).key();
      row.made = at;
      row.body = JsonMapper.shared().writeValueAsString(receipt);
      receipts.save(row);
    }
  }

  private void group(Instant at, UUID id, Operation.Restore restore) {
    List<UUID> members = restore.members().stream().map(Operation.Replacement::id).toList();
    group(at, id, restore.group(), members);
  }

  private void group(Instant at, UUID id, Operation.Group group, List<UUID> members) {
    if (groups.findByUuid(id).isEmpty()) {
      GroupRow row = new GroupRow();
      row.uuid = id;
      row.projectId = projects.getObject().key(group.project());
      row.made = at;
      row.who = group.who();
      row.what = group.what();
      row.ops = JsonMapper.shared().writeValueAsString(members);
      row.undoes = group.undoes();
      groups.save(row);
    }
  }

  private void ended(UUID id, boolean done, String told) {
    groups
        .findByUuid(id)
        .ifPresent(
            row -> {
              row.done = done;
              row.told = told;
              groups.save(row);
            });
  }
}
