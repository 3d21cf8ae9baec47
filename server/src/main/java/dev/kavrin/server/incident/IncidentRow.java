package dev.kavrin.server.incident;

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

/** An incident as recorded. */
@Entity
@Table(name = "incident")
class IncidentRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;

  @Column(name = "project_id")
  Long projectId;

  String documents;

  @Column(name = "span_from")
  Instant spanFrom;

  @Column(name = "span_to")
  Instant spanTo;

  String kind;
  String evidence;
  boolean open;

  /** Where they are kept. */
  interface Repository extends JpaRepository<IncidentRow, Long> {
    Optional<IncidentRow> findByUuid(UUID uuid);

    List<IncidentRow> findByProjectIdOrderBySpanToDesc(Long projectId);

    List<IncidentRow> findByOpenTrueOrderBySpanToDesc();
  }
}
