package dev.kavrin.server.rehearse;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
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
@Entity
@Table(name = "rehearsal")
class RehearsalRow {
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
  interface Repository extends JpaRepository<RehearsalRow, Long> {
    Optional<RehearsalRow> findByUuid(UUID uuid);

    List<RehearsalRow> findByDocumentIdOrderByMadeDesc(Long documentId);

    List<RehearsalRow> findByProjectIdOrderByMadeDesc(Long projectId);
  }
}
