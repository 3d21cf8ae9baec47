package dev.kavrin.server.restore;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
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
@Entity
@Table(name = "receipt")
class ReceiptRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;

  @Column(name = "document_id")
  Long documentId;

  Instant made;
  String body;

  /** Where they are kept. */
  interface Repository extends JpaRepository<ReceiptRow, Long> {
    Optional<ReceiptRow> findByUuid(UUID uuid);

    List<ReceiptRow> findByUuidIn(Collection<UUID> uuids);

    List<ReceiptRow> findByDocumentIdOrderByMadeDesc(Long documentId);
  }
}
