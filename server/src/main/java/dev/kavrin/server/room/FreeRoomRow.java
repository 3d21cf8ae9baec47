package dev.kavrin.server.room;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** What was free on a disk at a moment. */
@Entity
@Table(name = "free_room")
class FreeRoomRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  String device;
  long capacity;
  Instant seen;
  long free;
}
