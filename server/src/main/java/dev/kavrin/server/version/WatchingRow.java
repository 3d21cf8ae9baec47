package dev.kavrin.server.version;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A span in which Kavrin watched. */
@Entity
@Table(name = "watching")
class WatchingRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  @Column(name = "place_id")
  Long placeId;

  Instant since;

  Instant until;
}
