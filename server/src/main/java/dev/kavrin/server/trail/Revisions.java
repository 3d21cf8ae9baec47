package dev.kavrin.server.trail;

import jakarta.persistence.EntityManager;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/**
 * Tells whether anything recorded of a document's states changed, whoever changed it: from the
 * database's own row versions, so that no writer has to remember to say so.
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

  private final EntityManager database;

  Revisions(EntityManager database) {
    this.database = database;
  }

  /** By document key; a document without states is left out. */
  Map<Long, String> of(Collection<Long> documents) {
    Map<Long, String> found = new HashMap<>();
    if (!documents.isEmpty()) {
      @SuppressWarnings("unchecked")
      List<Object[]> rows =
          database.createNativeQuery(VERSIONS).setParameter("ids", documents).getResultList();
      rows.forEach(row -> found.put(((Number) row[0]).longValue(), (String) row[1]));
    }
    return found;
  }
}
