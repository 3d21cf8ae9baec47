package dev.kavrin.server.project;

import dev.kavrin.server.platform.Events;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * A document's revision rises with whatever is recorded of it, in the same transaction; once that
 * can be seen, the pages that show the document are told.
 */
@Component
public class DocumentRevisions {
  private final JdbcTemplate database;
  private final Events events;

  DocumentRevisions(JdbcTemplate database, Events events) {
    this.database = database;
    this.events = events;
  }

  /** Where a document came to. */
  private record Raised(UUID document, UUID project, long revision) {}

  /** By document key; one that is not recorded is left out. */
  public Map<Long, Long> of(Collection<Long> documents) {
    if (documents.isEmpty()) {
      return Map.of();
    }
    Map<Long, Long> found = new HashMap<>();
    String keys = documents.stream().map(String::valueOf).collect(Collectors.joining(","));
    database.query(
        "select d.id, d.revision from unnest(cast(? as bigint[])) as wanted (id)"
            + " join document d on d.id = wanted.id",
        row -> {
          found.put(row.getLong(1), row.getLong(2));
        },
        "{" + keys + "}");
    return found;
  }

  /** Within a transaction; in one, a document rises once. */
  public void raise(long document) {
    if (risen().add(document)) {
      List<Raised> raised =
          database.query(
              "update document d set revision = revision + 1 from project p"
                  + " where d.id = ? and p.id = d.project_id returning d.uuid, p.uuid, d.revision",
              (row, n) ->
                  new Raised(
                      row.getObject(1, UUID.class), row.getObject(2, UUID.class), row.getLong(3)),
              document);
      raised.forEach(this::tellAfterwards);
    }
  }

  public void raise(Collection<Long> documents) {
    new TreeSet<>(documents).forEach(this::raise);
  }

  /** All that have a copy or a member with a content. */
  public void raiseWithContent(long content) {
    raise(
        database.queryForList(
            "select document_id from copy where content_id = ? union"
                + " select s.document_id from state_entry e join state s on s.id = e.state_id"
                + " where e.content_id = ?",
            Long.class,
            content,
            content));
  }

  /** The one a version is of. */
  public void raiseOfVersion(long version) {
    raise(database.queryForList("select document_id from state where id = ?", Long.class, version));
  }

  private Set<Long> risen() {
    if (!TransactionSynchronizationManager.isSynchronizationActive()) {
      throw new IllegalStateException("A document's revision rises in a transaction only");
    }
    @SuppressWarnings("unchecked")
    Set<Long> risen = (Set<Long>) TransactionSynchronizationManager.getResource(this);
    if (risen == null) {
      risen = new HashSet<>();
      TransactionSynchronizationManager.bindResource(this, risen);
      TransactionSynchronizationManager.registerSynchronization(
          new TransactionSynchronization() {
            @Override
            public void afterCompletion(int status) {
              TransactionSynchronizationManager.unbindResourceIfPossible(DocumentRevisions.this);
            }
          });
    }
    return risen;
  }

  private void tellAfterwards(Raised raised) {
    TransactionSynchronizationManager.registerSynchronization(
        new TransactionSynchronization() {
          @Override
          public void afterCommit() {
            events.document(raised.document(), raised.project(), raised.revision());
          }
        });
  }
}
