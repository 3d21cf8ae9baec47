package dev.kavrin.server.backup;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** How far a journal has been taken in. */
@Entity
@Table(name = "journal_cursor")
class CursorRow {
  @Id
  @Column(name = "place_id")
  Long placeId;

  long position;

  @Column(name = "head_digest")
  String headDigest;

  String disagreement;
}
