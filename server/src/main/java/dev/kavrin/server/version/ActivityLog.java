package dev.kavrin.server.version;

import dev.kavrin.core.journal.ProgramWrote;
import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.PastLoss;
import dev.kavrin.core.plan.Worked;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Moments;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.project.Document;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Every write ever seen, and when somebody watched. */
@Service
public class ActivityLog {
  private static final List<String> LEFT_BY_PROGRAMS =
      List.of(CopyKind.AUTOSAVE.name(), CopyKind.RESCUE.name(), CopyKind.KEPT_BY_SAVE.name());

  private final VersionRows.Copies copies;
  private final VersionRows.Activities activities;
  private final VersionRows.Watchings watchings;
  private final FolderService places;

  ActivityLog(
      VersionRows.Copies copies,
      VersionRows.Activities activities,
      VersionRows.Watchings watchings,
      FolderService places) {
    this.copies = copies;
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

  /**
   * What the program itself left of a document, as found and as its journal says, and what of it
   * stands no more.
   */
  @Transactional(readOnly = true)
  public List<PastLoss.Survivor> programCopies(Document document, Kept kept) {
    Map<Instant, PastLoss.Survivor> all = new TreeMap<>();
    Map<String, Instant> next = new HashMap<>();
    kept.folder().history().programWrote(document.id()).stream()
        .sorted(Comparator.comparing(ProgramWrote::modified).reversed())
        .forEach(
            w ->
                all.put(
                    w.modified(),
                    new PastLoss.Survivor(
                        w.modified(), w.modified(), next.put(w.path(), w.modified()))));
    copies
        .findByDocumentIdAndSourceKindIn(document.key(), LEFT_BY_PROGRAMS)
        .forEach(c -> all.put(written(c), new PastLoss.Survivor(written(c), written(c), c.gone)));
    return List.copyOf(all.values());
  }

  private static Instant written(CopyRow copy) {
    return Moments.ofNanos(copy.modified);
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
