package dev.kavrin.server.version;

import dev.kavrin.server.project.DocumentRevisions;
import dev.kavrin.server.project.RaisesRevision;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityListeners;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A mark somebody put on a state. */
@EntityListeners(RaisesRevision.class)
@Entity
@Table(name = "state_mark")
class MarkRow implements RaisesRevision.OfDocument {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @Column(name = "document_id")
  Long documentId;

  @Column(name = "manifest_digest")
  String manifestDigest;

  String mark;

  String who;

  String note;

  Instant made;

  @Override
  public void raise(DocumentRevisions revisions) {
    revisions.raise(documentId);
  }
}
