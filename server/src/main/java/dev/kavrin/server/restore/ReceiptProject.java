package dev.kavrin.server.restore;

import dev.kavrin.server.people.ProjectOf;
import dev.kavrin.server.project.ProjectService;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** To which project a restore belongs, by its receipt. */
@Component
class ReceiptProject implements ProjectOf {
  private final ReceiptRow.Repository receipts;
  private final ProjectService projects;

  ReceiptProject(ReceiptRow.Repository receipts, ProjectService projects) {
    this.receipts = receipts;
    this.projects = projects;
  }

  @Override
  public String noun() {
    return "restores";
  }

  @Override
  public Optional<UUID> project(UUID restore) {
    return receipts
        .findByUuid(restore)
        .map(r -> projects.document(r.documentId.longValue()).project());
  }
}
