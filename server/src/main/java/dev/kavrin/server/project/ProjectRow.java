package dev.kavrin.server.project;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.UUID;

/** A project as recorded; rule, program and plan as JSON of the core's records. */
@Entity
@Table(name = "project")
class ProjectRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  UUID uuid;
  String name;
  String slug;

  @Column(name = "work_place_id")
  Long workPlaceId;

  @Column(name = "recovery_place_id")
  Long recoveryPlaceId;

  String also;
  String leaving;
  String rule;
  String sets;
  String program;
  String plan;
  String exceptions;
  long version;

  @Column(name = "changed_by")
  String changedBy;

  Instant changed;
}
