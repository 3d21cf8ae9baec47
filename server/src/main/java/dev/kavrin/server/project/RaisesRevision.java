package dev.kavrin.server.project;

import jakarta.persistence.PostPersist;
import jakarta.persistence.PostRemove;
import jakarta.persistence.PostUpdate;
import org.springframework.beans.factory.ObjectProvider;

/** Put on what is recorded of a document, so that no writer has to remember to say so. */
public final class RaisesRevision {
  private final ObjectProvider<DocumentRevisions> revisions;

  RaisesRevision(ObjectProvider<DocumentRevisions> revisions) {
    this.revisions = revisions;
  }

  /** A row that is of one document or of several. */
  public interface OfDocument {
    void raise(DocumentRevisions revisions);
  }

  @PostPersist
  @PostUpdate
  @PostRemove
  void changed(OfDocument row) {
    row.raise(revisions.getObject());
  }
}
