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

/** A state as recorded. */
@Entity
@EntityListeners(RaisesRevision.class)
@Table(name = "state")
class VersionRow implements RaisesRevision.OfDocument {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @Column(name = "document_id")
  Long documentId;

  @Column(name = "manifest_digest")
  String manifestDigest;

  @Column(name = "work_lo")
  long workLo;

  @Column(name = "work_hi")
  long workHi;

  Long run;

  Long step;

  String lacks;

  @Column(name = "work_at")
  Long workAt;

  @Column(name = "told_by")
  String toldBy;

  String contradictions;

  @Column(name = "order_known")
  boolean orderKnown = true;

  boolean settled = true;

  String role;

  /** By which states are ordered. */
  long at() {
    return workAt == null ? workHi : workAt;
  }

  @Override
  public void raise(DocumentRevisions revisions) {
    revisions.raise(documentId);
  }
}
