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
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

/** A file that a search tied to a document. */
@EntityListeners(RaisesRevision.class)
@Entity
@Table(name = "stray")
class StrayRow implements RaisesRevision.OfDocument {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;

  @Column(name = "document_id")
  Long documentId;

  String content;
  String path;
  long size;
  long modified;

  @Column(name = "tied_by")
  String tiedBy;

  String kind;
  double share;
  String words;
  String standing;
  Instant found;
  Instant decided;
  String who;

  /** Where they are kept. */
  @Override
  public void raise(DocumentRevisions revisions) {
    revisions.raise(documentId);
  }

  interface Repository extends JpaRepository<StrayRow, Long> {
    Optional<StrayRow> findByUuid(UUID uuid);

    List<StrayRow> findByDocumentId(Long documentId);

    List<StrayRow> findByDocumentIdIn(Collection<Long> documentIds);

    List<StrayRow> findByDocumentIdAndContent(Long documentId, String content);
  }
}
