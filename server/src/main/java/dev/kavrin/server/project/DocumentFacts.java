package dev.kavrin.server.project;

import dev.kavrin.core.journal.Fact;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.backup.JournalListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Every fact about a document raises its revision, recorded in rows of its own or not. */
@Component
@Order(Ordered.LOWEST_PRECEDENCE)
class DocumentFacts implements JournalListener {
  private final DocumentRows documents;
  private final DocumentRevisions revisions;

  DocumentFacts(DocumentRows documents, DocumentRevisions revisions) {
    this.documents = documents;
    this.revisions = revisions;
  }

  @Override
  public void apply(long recoveryPlace, JournalEntry entry) {
    if (entry instanceof Fact.OfDocument fact) {
      documents.findByUuid(fact.document()).ifPresent(d -> revisions.raise(d.id));
    }
  }
}
