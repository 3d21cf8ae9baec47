package dev.kavrin.server.project;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.util.UUID;

/** A document as recorded. */
@Entity
@Table(name = "document")
class DocumentRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;

  @Column(name = "project_id")
  Long projectId;

  @Column(name = "rel_path")
  String relPath;

  boolean linked;
}
