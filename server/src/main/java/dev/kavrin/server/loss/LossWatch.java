package dev.kavrin.server.loss;

import dev.kavrin.core.compare.LossLimits;
import dev.kavrin.core.compare.PartHistory.Sighting;
import dev.kavrin.core.compare.SuddenLoss;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.JournalEntry.LossAsked;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.Events;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionInventories;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.StateView;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/**
 * Notices saves that took away what is hardly taken away on purpose, and asks once about each. What
 * was looked at need not be remembered: looking again comes to the same.
 */
@Component
class LossWatch {
  private static final Logger LOG = LoggerFactory.getLogger(LossWatch.class);

  /** Older saves were lived with; nobody is asked about them. */
  private static final Duration RECENT = Duration.ofHours(24);

  private final ProjectService projects;
  private final Engine engine;
  private final VersionInventories inventories;
  private final VersionService trail;
  private final JournalFollower follower;
  private final Events events;
  private final InstantSource clock;
  private final Map<UUID, List<Sighting>> looked = new HashMap<>();

  LossWatch(
      ProjectService projects,
      Engine engine,
      VersionInventories inventories,
      VersionService trail,
      JournalFollower follower,
      Events events,
      InstantSource clock) {
    this.projects = projects;
    this.engine = engine;
    this.inventories = inventories;
    this.trail = trail;
    this.follower = follower;
    this.events = events;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 3000, initialDelay = 4000)
  void look() {
    try {
      for (ProjectService.Project project : projects.all()) {
        Kept kept = engine.project(project.id()).orElse(null);
        if (kept == null) {
          continue;
        }
        List<Document> documents = projects.documents(project.id());
        Map<UUID, List<Sighting>> now = inventories.of(documents);
        for (Document document : documents) {
          look(kept, document, now.get(document.id()));
        }
      }
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Looking for losses waits for the records: {}", away.getMessage());
    } catch (IOException unwritable) {
      LOG.warn("A loss could not be recorded: {}", unwritable.getMessage());
    }
  }

  private void look(Kept kept, Document document, List<Sighting> now) throws IOException {
    expire(kept, document);
    LossLimits limits = kept.project().planFor(document.id()).loss();
    if (looked.get(document.id()) == now || !limits.asks() || isQuietToday(kept, document)) {
      return;
    }
    List<LossAsked> asked = kept.folder().history().losses(document.id());
    for (LossAsked question : questions(kept, document, now, limits)) {
      if (asked.stream().noneMatch(a -> a.after().equals(question.after()))) {
        kept.folders().record(question);
        follower.follow();
        events.changed("loss");
      }
    }
    looked.put(document.id(), now);
  }

  private void expire(Kept kept, Document document) throws IOException {
    Instant now = clock.instant();
    for (LossAsked asked : kept.folder().history().losses(document.id())) {
      if (asked.isOpen() && asked.until().isBefore(now)) {
        kept.folders().record(asked.answered(now, "expired", null));
        events.changed("loss");
      }
    }
  }

  /** True if somebody asked for quiet about this document today, by the project's clock. */
  private boolean isQuietToday(Kept kept, Document document) {
    ZoneId zone = ZoneId.of(kept.project().zone());
    LocalDate today = clock.instant().atZone(zone).toLocalDate();
    return kept.folder().history().losses(document.id()).stream()
        .filter(a -> "not today".equals(a.answer()))
        .anyMatch(a -> a.at().atZone(zone).toLocalDate().equals(today));
  }

  private List<LossAsked> questions(
      Kept kept, Document document, List<Sighting> sightings, LossLimits limits) {
    Instant now = clock.instant();
    Map<String, StateView> views =
        trail.whole(document.id()).states().stream()
            .collect(Collectors.toMap(StateView::id, Function.identity()));
    List<LossAsked> questions = new ArrayList<>();
    Sighting before = null;
    for (Sighting sighting : sightings) {
      StateView view = views.get(sighting.state());
      if (isYetToBeRead(sighting, view)) {
        before = null;
      }
      if (sighting.isGap() || !sighting.whole()) {
        continue;
      }
      if (before != null && view != null && isSave(view) && views.containsKey(before.state())) {
        boolean recent = sighting.work().isAfter(now.minus(RECENT));
        List<SuddenLoss.Loss> losses =
            recent
                ? SuddenLoss.of(
                    before.inventory(),
                    sighting.inventory(),
                    worse(views.get(before.state()), view),
                    limits)
                : List.of();
        if (!losses.isEmpty()) {
          questions.add(question(document, before, sighting, losses, limits));
        }
      }
      before = sighting;
    }
    return questions;
  }

  /** What happened in a state nobody has read must not be blamed on the next. */
  private static boolean isYetToBeRead(Sighting sighting, StateView view) {
    return sighting.isGap()
        && (view == null
            || view.verdict().equals(Verdict.NOT_CHECKED.name())
            || Verdict.valueOf(view.verdict()).trustworthy());
  }

  private LossAsked question(
      Document document,
      Sighting before,
      Sighting after,
      List<SuddenLoss.Loss> losses,
      LossLimits limits) {
    Instant now = clock.instant();
    return new LossAsked(
        now,
        document.id(),
        before.state(),
        after.state(),
        losses.stream().map(SuddenLoss.Loss::words).toList(),
        losses.stream().flatMap(l -> l.parts().stream()).limit(50).toList(),
        now.plus(Duration.ofDays(limits.days())),
        null,
        null);
  }

  /** Only what a person saved is asked about, and steps of a run. */
  private static boolean isSave(StateView view) {
    return view.step() != null
        || view.copies().stream()
            .anyMatch(
                c ->
                    c.originKind().equals(CopyKind.LIVE.name())
                        || c.originKind().equals(CopyKind.KEPT_BY_SAVE.name()));
  }

  private static List<Finding> worse(StateView before, StateView after) {
    List<String> known = before.findings().stream().map(Finding::code).toList();
    return after.findings().stream().filter(f -> !known.contains(f.code())).toList();
  }
}
