package dev.kavrin.server.restore;

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

/** The proof of a restore, as recorded. */
@EntityListeners(RaisesRevision.class)
@Entity
@Table(name = "receipt")
class ReceiptRow implements RaisesRevision.OfDocument {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;

  @Column(name = "document_id")
  Long documentId;

  Instant made;
  String body;

  /** Where they are kept. */
  @Override
  public void raise(DocumentRevisions revisions) {
    revisions.raise(documentId);
  }

  interface Repository extends JpaRepository<ReceiptRow, Long> {
    Optional<ReceiptRow> findByUuid(UUID uuid);

    List<ReceiptRow> findByUuidIn(Collection<UUID> uuids);

    List<ReceiptRow> findByDocumentIdOrderByMadeDesc(Long documentId);
  }
}
