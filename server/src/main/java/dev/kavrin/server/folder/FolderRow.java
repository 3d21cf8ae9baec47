package dev.kavrin.server.folder;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.UUID;

/** A place as recorded. */
@Entity
@Table(name = "place")
class FolderRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;
  String node;
  String path;

  @Enumerated(EnumType.STRING)
  FolderRole role;

  String zone;
  Instant created;
}
