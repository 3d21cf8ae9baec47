package dev.kavrin.server.version;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A write of a live file that was seen. */
@Entity
@Table(name = "activity")
class ActivityRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @Column(name = "document_id")
  Long documentId;

  long modified;

  Instant noticed;

  long size;

  @Column(name = "content_id")
  Long contentId;
}
