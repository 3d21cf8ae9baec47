package dev.kavrin.server.search;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

/** A search as recorded. */
@Entity
@Table(name = "search")
class SearchRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;
  Instant started;
  Instant ended;
  long folders;
  long files;

  @Column(name = "read_files")
  long readFiles;

  @Column(name = "read_bytes")
  long readBytes;

  long found;
  boolean cancelled;
  String problem;

  /** Where was looked, as JSON. */
  String looked;

  /** Where they are kept. */
  interface Repository extends JpaRepository<SearchRow, Long> {
    Optional<SearchRow> findFirstByOrderByIdDesc();

    Optional<SearchRow> findByUuid(UUID uuid);
  }
}
