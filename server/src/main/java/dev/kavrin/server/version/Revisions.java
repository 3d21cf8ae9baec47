package dev.kavrin.server.version;

import jakarta.persistence.EntityManager;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import org.springframework.stereotype.Component;

/**
 * Tells whether anything recorded of a document's states changed, whoever changed it: from the
 * database's own row versions, so that no writer has to remember to say so. They are looked at only
 * if a count that triggers keep has moved.
 */
@Component
class Revisions {
  /** Each row version is made by one transaction; sum and number change with every one. */
  private static final String VERSIONS =
      """
      select document_id, string_agg(version, ';' order by version) from (
        select document_id, 'c' || count(*) || '.' || sum(hashtext(cast(xmin as text))) as version
          from copy where document_id in (:ids) and gone is null group by document_id
        union all
        select document_id, 's' || count(*) || '.' || sum(hashtext(cast(xmin as text)))
          from state where document_id in (:ids) group by document_id
        union all
        select k.document_id, 'r' || count(*) || '.' || sum(hashtext(cast(r.xmin as text)))
          from copy k join content r on r.id = k.content_id
          where k.document_id in (:ids) and k.gone is null group by k.document_id
        union all
        select s.document_id, 'e' || count(*) || '.' || sum(hashtext(cast(r.xmin as text)))
          from state s join state_entry e on e.state_id = s.id join content r on r.id = e.content_id
          where s.document_id in (:ids) and s.run is not null group by s.document_id
      ) all_versions group by document_id
      """;

  /** Moves before a change can be seen. */
  private static final String COUNT =
      "select case when is_called then last_value else 0 end from change_count";

  /**
   * True if no change is under way, so that whatever moved the count before can be seen: who
   * changes anything holds a lock on the number of the transaction from before the first change
   * until it can be seen.
   */
  private static final String SETTLED =
      "select not exists (select 1 from pg_locks where locktype = 'transactionid')";

  private final EntityManager database;
  private final AtomicReference<Known> known = new AtomicReference<>(new Known(-1, Map.of()));

  Revisions(EntityManager database) {
    this.database = database;
  }

  /** What was found while the count stood there. */
  private record Known(long count, Map<Long, String> byDocument) {
    Map<Long, String> only(Collection<Long> asked) {
      Map<Long, String> some = new HashMap<>();
      asked.stream()
          .filter(id -> !byDocument.get(id).isEmpty())
          .forEach(id -> some.put(id, byDocument.get(id)));
      return some;
    }

    Known and(long now, Collection<Long> asked, Map<Long, String> found) {
      Map<Long, String> all = new HashMap<>(now == count ? byDocument : Map.of());
      asked.forEach(id -> all.put(id, found.getOrDefault(id, "")));
      return new Known(now, all);
    }
  }

  /** By document key; a document without states is left out. */
  Map<Long, String> of(Collection<Long> documents) {
    if (documents.isEmpty()) {
      return Map.of();
    }
    long count = ((Number) database.createNativeQuery(COUNT).getSingleResult()).longValue();
    Known before = known.get();
    if (before.count() == count && before.byDocument().keySet().containsAll(documents)) {
      return before.only(documents);
    }
    boolean settled = (Boolean) database.createNativeQuery(SETTLED).getSingleResult();
    Map<Long, String> found = versions(documents);
    if (settled) {
      known.updateAndGet(k -> k.and(count, documents, found));
    }
    return found;
  }

  private Map<Long, String> versions(Collection<Long> documents) {
    Map<Long, String> found = new HashMap<>();
    @SuppressWarnings("unchecked")
    List<Object[]> rows =
        database.createNativeQuery(VERSIONS).setParameter("ids", documents).getResultList();
    rows.forEach(row -> found.put(((Number) row[0]).longValue(), (String) row[1]));
    return found;
  }
}
