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

/** One member of a state. */
@Entity
@EntityListeners(RaisesRevision.class)
@Table(name = "state_entry")
class VersionEntryRow implements RaisesRevision.OfDocument {
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

  @Override
  public void raise(DocumentRevisions revisions) {
    revisions.raiseOfVersion(stateId);
  }
}
