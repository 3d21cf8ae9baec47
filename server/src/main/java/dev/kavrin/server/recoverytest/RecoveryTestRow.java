package dev.kavrin.server.recoverytest;

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
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

/** A rehearsal, as recorded. */
@EntityListeners(RaisesRevision.class)
@Entity
@Table(name = "rehearsal")
class RecoveryTestRow implements RaisesRevision.OfDocument {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;

  @Column(name = "project_id")
  Long projectId;

  @Column(name = "document_id")
  Long documentId;

  Instant made;

  /** The journal's entry as JSON. */
  String body;

  /** Where they are kept. */
  @Override
  public void raise(DocumentRevisions revisions) {
    revisions.raise(documentId);
  }

  interface Repository extends JpaRepository<RecoveryTestRow, Long> {
    Optional<RecoveryTestRow> findByUuid(UUID uuid);

    List<RecoveryTestRow> findByDocumentIdOrderByMadeDesc(Long documentId);

    List<RecoveryTestRow> findByProjectIdOrderByMadeDesc(Long projectId);

    List<RecoveryTestRow> findAllByOrderByMadeDesc();
  }
}
