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
import jakarta.persistence.Transient;
import java.time.Instant;
import java.util.UUID;

/** One file on disk that holds a content. */
@Entity
@EntityListeners(RaisesRevision.class)
@Table(name = "copy")
class CopyRow implements RaisesRevision.OfDocument {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;

  @Column(name = "document_id")
  Long documentId;

  @Column(name = "state_id")
  Long stateId;

  @Column(name = "content_id")
  Long contentId;

  @Column(name = "place_id")
  Long placeId;

  @Column(name = "rel_path")
  String relPath;

  @Column(name = "source_kind")
  String sourceKind;

  @Column(name = "origin_kind")
  String originKind;

  @Column(name = "origin_path")
  String originPath;

  String fidelity;

  @Column(name = "left_out")
  String leftOut;

  boolean settled;

  long sequence;

  String cause;

  String note;

  long modified;

  @Column(name = "file_key")
  String fileKey;

  Instant since;

  Instant gone;

  @Column(name = "bin_path")
  String binPath;

  String fault;

  /** Of its own content; set by whoever read that. */
  @Transient long size;

  boolean isFull() {
    return leftOut == null;
  }

  @Override
  public void raise(DocumentRevisions revisions) {
    revisions.raise(documentId);
  }
}
