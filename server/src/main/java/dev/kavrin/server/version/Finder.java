package dev.kavrin.server.version;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Siblings;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.units.Span;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.FoundCopies.Found;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Finds the copies of a document that Kavrin did not make: the live file, what its program keeps,
 * what was put aside. Reads only what is new since the last look.
 */
@Component
class Finder {
  private static final Logger LOG = LoggerFactory.getLogger(Finder.class);

  /** A file written within that time is looked at when it rests. */
  private static final Duration SETTLES = Duration.ofSeconds(2);

  private final ProjectService projects;
  private final FolderService places;
  private final Engine engine;
  private final VersionRecorder recorder;
  private final Ordering ordering;
  private final SiblingCopies siblings;
  private final FoundCopies copiesOnDisk;
  private final AbsentCopies absent;
  private final VersionRows.Copies copies;
  private final TransactionTemplate transaction;
  private final InstantSource clock;
  private final Map<UUID, Object> looking = new ConcurrentHashMap<>();
  private final Set<UUID> failing = ConcurrentHashMap.newKeySet();

  /** Files dated in the future, as they were last seen. */
  private final Map<Path, FileFacts> ahead = new ConcurrentHashMap<>();

  /** Found at the last look, and all of it recorded. */
  private final Map<UUID, List<Found>> recorded = new ConcurrentHashMap<>();

  Finder(
      ProjectService projects,
      FolderService places,
      Engine engine,
      VersionRecorder recorder,
      Ordering ordering,
      SiblingCopies siblings,
      FoundCopies copiesOnDisk,
      AbsentCopies absent,
      VersionRows.Copies copies,
      TransactionTemplate transaction,
      InstantSource clock) {
    this.projects = projects;
    this.places = places;
    this.engine = engine;
    this.recorder = recorder;
    this.ordering = ordering;
    this.siblings = siblings;
    this.copiesOnDisk = copiesOnDisk;
    this.absent = absent;
    this.copies = copies;
    this.transaction = transaction;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 3000, initialDelay = 500)
  void lookEverywhere() {
    try {
      for (Kept kept : projects.watched()) {
        if (kept.watch().standsBack().isPresent()) {
          continue;
        }
        for (Document document : projects.documents(kept.project().id())) {
          lookAlone(document);
        }
      }
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Looking waits for the records: {}", away.getMessage());
    }
  }

  /** One document that cannot be looked at keeps no other from being looked at. */
  private void lookAlone(Document document) {
    try {
      look(document);
    } catch (DataAccessException | TransactionException away) {
      throw away;
    } catch (RuntimeException failed) {
      if (failing.add(document.id())) {
        LOG.error("Looking for copies of {} failed", document.live(), failed);
      }
    }
  }

  /** Folders looked at for a document at the last look. */
  List<FoundCopies.Looked> lookedAt(UUID document) {
    return copiesOnDisk.lookedAt(document);
  }

  /** Looks once; returns when all that is new has been read. Waits for nobody else's document. */
  void look(Document document) {
    synchronized (looking.computeIfAbsent(document.id(), d -> new Object())) {
      lookNow(document);
    }
  }

  private void lookNow(Document document) {
    Optional<Kept> kept = engine.project(document.project());
    if (kept.isEmpty()) {
      return;
    }
    List<Folder> all = places.all();
    Folder work = places.byKey(document.workPlace()).orElseThrow();
    if (!places.isHere(work)) {
      return;
    }
    List<Found> found = copiesOnDisk.of(document, kept.get());
    if (found.equals(recorded.get(document.id()))) {
      return;
    }
    boolean changed = false;
    boolean complete = true;
    Set<String> seen = new HashSet<>();
    for (Found f : found) {
      Optional<Folder> place =
          all.stream()
              .filter(p -> f.path().startsWith(p.path()))
              .max(Comparator.comparingInt(p -> p.path().getNameCount()));
      if (place.isPresent()) {
        seen.add(f.path().toString());
        boolean rests = rests(f);
        complete &= rests;
        changed |= rests && sight(document, place.get(), f);
      }
    }
    AbsentCopies.Outcome forgotten = absent.forget(document, seen);
    changed |= forgotten.changed();
    complete &= !forgotten.unsure();
    if (complete && !changed) {
      recorded.put(document.id(), found);
    }
    if (changed) {
      ordering.order(document, kept.get().project().program());
    }
  }

  /** One dated in the future rests if it stands as it stood at the last look. */
  private boolean rests(Found f) {
    Instant now = clock.instant();
    if (f.facts().modified().isAfter(now)) {
      FileFacts before = ahead.put(f.path(), f.facts());
      return before != null && before.sameAs(f.facts());
    }
    return !f.facts().modified().isAfter(now.minus(SETTLES));
  }

  private boolean sight(Document document, Folder place, Found found) {
    String relative = RelativePath.of(place.path(), found.path());
    CopyRow known = copies.findByPlaceIdAndRelPathAndGoneIsNull(place.key(), relative).orElse(null);
    if (known != null
        && known.modified == found.facts().modifiedNanos()
        && found.facts().key().equals(known.fileKey)) {
      return false;
    }
    try {
      ContentId content = engine.publisher().identify(found.path());
      String name = document.live().getFileName().toString();
      HealthReport report =
          Unchanged.read(
                  engine.disk(),
                  found.path(),
                  content,
                  file -> compared(document, file, engine.inspector().inspect(file, name)))
              .orElse(null);
      boolean still = engine.disk().facts(found.path()).filter(found.facts()::sameAs).isPresent();
      if (!still || report == null) {
        return false;
      }
      transaction.executeWithoutResult(
          t -> save(document, place, relative, found, content, report, known));
      return true;
    } catch (IOException vanished) {
      LOG.debug("{} vanished while it was looked at", found.path());
      return false;
    }
  }

  /** Of a kind nobody can read, what the other states say of it. */
  private HealthReport compared(Document document, Path file, HealthReport report)
      throws IOException {
    return report.verdict() == Verdict.NO_FAULT
        ? Siblings.compare(report, siblings.looks(file, report), siblings.of(document, file))
        : report;
  }

  private void save(
      Document document,
      Folder place,
      String relative,
      Found found,
      ContentId id,
      HealthReport report,
      CopyRow known) {
    if (known != null) {
      known.gone = clock.instant();
      copies.saveAndFlush(known);
    }
    ContentRow content = recorder.content(id, FileName.of(document.path()).lowerExt());
    recorder.read(content, report);
    VersionRow state = recorder.state(document.key(), content, Span.at(found.facts().modified()));
    CopyRow row = new CopyRow();
    row.uuid = Ids.next(clock.instant());
    row.documentId = document.key();
    row.stateId = state.id;
    row.contentId = content.id;
    row.placeId = place.key();
    row.relPath = relative;
    row.sourceKind = found.kind().name();
    row.originKind = found.kind().name();
    row.originPath = found.path().toString();
    row.fidelity = "FULL";
    row.settled = true;
    row.cause = "found";
    row.modified = found.facts().modifiedNanos();
    row.fileKey = found.facts().key();
    row.since = clock.instant();
    copies.save(row);
  }
}
