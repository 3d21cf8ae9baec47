package dev.kavrin.server.version;

import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.Worked;
import dev.kavrin.core.units.Moments;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.project.Document;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Every write ever seen, and when somebody watched. */
@Service
public class ActivityLog {
  private final VersionRows.Activities activities;
  private final VersionRows.Watchings watchings;
  private final FolderService places;

  ActivityLog(
      VersionRows.Activities activities, VersionRows.Watchings watchings, FolderService places) {
    this.activities = activities;
    this.watchings = watchings;
    this.places = places;
  }

  /** By document, oldest first; documents without any are left out. */
  @Transactional(readOnly = true)
  public Map<UUID, List<Activity.Write>> writes(Collection<Document> documents) {
    Map<Long, UUID> ids = documents.stream().collect(Collectors.toMap(Document::key, Document::id));
    Map<UUID, List<Activity.Write>> writes = new LinkedHashMap<>();
    for (ActivityRow row : activities.findByDocumentIdInOrderByModified(ids.keySet())) {
      writes
          .computeIfAbsent(ids.get(row.documentId), k -> new ArrayList<>())
          .add(new Activity.Write(Moments.ofNanos(row.modified), row.size));
    }
    return writes;
  }

  /** Spans in which the journal of a recovery folder shows that somebody watched, in order. */
  @Transactional(readOnly = true)
  public List<Worked.Sitting> watched(String recovery) {
    List<Worked.Sitting> spans = new ArrayList<>();
    places.all().stream()
        .filter(p -> p.path().toString().equals(recovery))
        .flatMap(p -> watchings.findByPlaceIdOrderBySince(p.key()).stream())
        .forEach(w -> join(spans, w.since, w.until));
    return spans;
  }

  private static void join(List<Worked.Sitting> spans, Instant from, Instant to) {
    Worked.Sitting last = spans.isEmpty() ? null : spans.get(spans.size() - 1);
    if (last == null || from.isAfter(last.to())) {
      spans.add(new Worked.Sitting(from, to));
    } else if (to.isAfter(last.to())) {
      spans.set(spans.size() - 1, new Worked.Sitting(last.from(), to));
    }
  }
}
