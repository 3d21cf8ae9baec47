package dev.kavrin.server.notification;

import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.plan.FreeHistory;
import dev.kavrin.core.plan.Reminder;
import dev.kavrin.core.settings.SettingsAudit;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.Notifier.About;
import dev.kavrin.server.program.ProgramAudits;
import dev.kavrin.server.room.FreeRoom;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Notices what people should be told, once for each time it begins. */
@Component
class NotificationWatch {
  private static final Duration JUST_WRITTEN = Duration.ofSeconds(5);

  private final Engine engine;
  private final ProgramAudits audits;
  private final Notifier teller;
  private final FreeRoom room;
  private final InstantSource clock;
  private final Map<UUID, Instant> reminded = new ConcurrentHashMap<>();
  private final Map<UUID, Instant> putOff = new ConcurrentHashMap<>();
  private final Set<String> standing = new HashSet<>();
  private final Instant begun;

  NotificationWatch(
      Engine engine, ProgramAudits audits, Notifier teller, FreeRoom room, InstantSource clock) {
    this.engine = engine;
    this.audits = audits;
    this.teller = teller;
    this.room = room;
    this.clock = clock;
    this.begun = clock.instant();
  }

  void putOff(UUID document, int minutes) {
    putOff.put(document, clock.instant().plus(Duration.ofMinutes(minutes)));
  }

  @Scheduled(fixedDelay = 2000, initialDelay = 2000)
  void look() {
    Set<String> now = new HashSet<>();
    for (Kept kept : engine.projects()) {
      crashes(kept, now);
      ownSafety(kept, now);
      away(kept, now);
      kept.watch().status().forEach(status -> remind(kept, status));
    }
    room.filling().forEach((folder, filling) -> fills(folder, filling, now));
    standing.retainAll(now);
    standing.addAll(now);
  }

  /** True for the first look at which something stands. */
  private boolean begins(String what, Set<String> now) {
    now.add(what);
    return !standing.contains(what);
  }

  private void crashes(Kept kept, Set<String> now) {
    for (JournalEntry.IncidentSet i : kept.folder().history().incidents()) {
      boolean ours = i.project().equals(kept.project().id()) && i.to().isAfter(begun);
      if (ours && i.open() && begins("incident " + i.id(), now)) {
        UUID document = i.documents().isEmpty() ? null : i.documents().get(0);
        teller.tell(
            NotificationSettings.Kind.CRASH,
            new About(
                Set.of(kept.project().id()),
                document == null ? "/recover" : "/recover/" + document,
                document),
            kept.project().name() + what(i.kind()),
            "What it left behind is secured. " + String.join(". ", i.evidence()) + ".");
      }
    }
  }

  private void ownSafety(Kept kept, Set<String> now) {
    boolean off =
        audits.of(kept).map(ProgramAudits.Standing::audit).filter(SettingsAudit::isOff).isPresent();
    if (off && begins("off " + kept.project().id(), now)) {
      teller.tell(
          NotificationSettings.Kind.OWN_SAFETY_OFF,
          About.project(kept.project().id(), "/programs"),
          "The own autosave of " + kept.project().program().name() + " is off",
          "Until it is on, only what is saved in "
              + kept.project().name()
              + " can be copied. Kavrin can put it right.");
    }
  }

  private void away(Kept kept, Set<String> now) {
    for (BackupFolder folder : kept.folders().all()) {
      try {
        folder.requireHere();
      } catch (IOException away) {
        if (begins("away " + folder.root(), now)) {
          teller.tell(
              NotificationSettings.Kind.FOLDER_AWAY,
              new About(servedBy(folder), "/folders", null),
              "A backup folder is away",
              folder.root() + " takes no copies until it is back; then it is caught up.");
        }
      }
    }
  }

  private Set<UUID> servedBy(BackupFolder folder) {
    return engine.projects().stream()
        .filter(k -> k.folders().all().stream().anyMatch(f -> f.root().equals(folder.root())))
        .map(k -> k.project().id())
        .collect(Collectors.toSet());
  }

  /** The work's own drive as well: a program that finds it full cannot save. */
  private void fills(Path folder, FreeHistory.Filling filling, Set<String> now) {
    if (begins("fills " + folder, now)) {
      String when =
          filling.fullAt() == null
              ? ""
              : " At this pace it is full in "
                  + Words.age(Duration.between(clock.instant(), filling.fullAt()))
                  + ".";
      teller.tell(
          NotificationSettings.Kind.DRIVE_FILLING,
          About.machine("/folders"),
          "The drive of " + folder + " is filling up",
          Sizes.words(filling.free()) + " are free." + when + " Folders says what takes the room.");
    }
  }

  private void remind(Kept kept, Watch.Status status) {
    Instant now = clock.instant();
    UUID document = status.document();
    Duration after = kept.project().planFor(document).reminder();
    Instant written = status.everSaved() ? status.modified() : firstSeen(kept, document);
    boolean busy =
        status.heldBy() != null || written != null && now.isBefore(written.plus(JUST_WRITTEN));
    Reminder reminder =
        new Reminder(
            written,
            kept.open(document).mayHoldWork(),
            busy,
            reminded.get(document),
            putOff.get(document));
    if (!after.isZero() && reminder.isDue(after, now)) {
      reminded.put(document, now);
      String name = Path.of(kept.watch().path(document)).getFileName().toString();
      teller.tell(
          NotificationSettings.Kind.REMINDER,
          new About(Set.of(kept.project().id()), "/versions/" + document, document),
          "Save " + name + " now?",
          status.everSaved()
              ? "It was last written " + Words.age(Duration.between(written, now)) + " ago."
              : "It was never saved; its program holds it since "
                  + Words.age(Duration.between(written, now))
                  + " at least.");
    }
  }

  @Nullable
  private static Instant firstSeen(Kept kept, UUID document) {
    return kept.folder()
        .history()
        .document(document)
        .map(JournalEntry.DocumentSet::at)
        .orElse(null);
  }

  private static String what(String kind) {
    return switch (kind) {
      case "closed" -> " was closed with unsaved work";
      case IncidentWatch.ASKED -> " is open elsewhere, or its lock file was left behind";
      default -> " crashed";
    };
  }
}
