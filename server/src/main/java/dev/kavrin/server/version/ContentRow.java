package dev.kavrin.server.version;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** A content as recorded: identity, verdict, what is inside. */
@Entity
@Table(name = "content")
class ContentRow {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  Long id;

  long length;

  @Column(name = "xxh3_128")
  String digest;

  String ext;

  String verdict;

  String findings;

  String inventory;
}
