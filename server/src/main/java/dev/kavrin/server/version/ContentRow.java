package dev.kavrin.server.version;

import dev.kavrin.server.project.DocumentRevisions;
import dev.kavrin.server.project.RaisesRevision;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityListeners;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A content as recorded: identity, verdict, what is inside. */
@Entity
@EntityListeners(RaisesRevision.class)
@Table(name = "content")
class ContentRow implements RaisesRevision.OfDocument {
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

  /** Edition of the checks that judged it; 0 for one that said none. */
  int checks;

  /** How often it could not be read for a reason that may pass. */
  int tries;

  /** When it is tried again, null for at once. */
  @Column(name = "retry_at")
  Instant retryAt;

  @Override
  public void raise(DocumentRevisions revisions) {
    revisions.raiseWithContent(id);
  }
}
