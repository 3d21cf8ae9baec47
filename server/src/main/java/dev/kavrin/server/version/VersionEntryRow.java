package dev.kavrin.server.version;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** One member of a state. */
@Entity
@Table(name = "state_entry")
class VersionEntryRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @Column(name = "state_id")
  Long stateId;

  String role;

  @Column(name = "rel_path")
  String relPath;

  @Column(name = "content_id")
  Long contentId;
}
