package dev.kavrin.server.notification;

import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.plan.Reminder;
import dev.kavrin.core.units.Words;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/**
 * Reminds people to save. What would be due soon in the same project is reminded of along with what
 * is due, so that one message does.
 */
@Component
class ReminderNews implements NewsSource {
  private static final Duration JUST_WRITTEN = Duration.ofSeconds(5);

  /** Of the time between reminders, how much earlier one comes along with another. */
  private static final int SOON = 4;

  private final InstantSource clock;
  private final Map<UUID, Instant> reminded = new ConcurrentHashMap<>();
  private final Map<UUID, Instant> putOff = new ConcurrentHashMap<>();

  ReminderNews(InstantSource clock) {
    this.clock = clock;
  }

  void putOff(UUID document, int minutes) {
    putOff.put(document, clock.instant().plus(Duration.ofMinutes(minutes)));
  }

  /**
   * @param after how long after a write a reminder is due
   */
  private record Unsaved(Watch.Status status, Reminder reminder, Duration after) {
    boolean isDue(Instant at) {
      return !after.isZero() && reminder.isDue(after, at);
    }
  }

  @Override
  public void look(Collection<Kept> projects, Round round) {
    Instant now = round.now();
    for (Kept kept : projects) {
      List<Unsaved> all = new ArrayList<>();
      kept.watch().status().forEach(status -> all.add(unsaved(kept, status, now)));
      if (all.stream().anyMatch(u -> u.isDue(now))) {
        all.stream()
            .filter(u -> u.isDue(now.plus(u.after().dividedBy(SOON))))
            .forEach(
                u -> {
                  reminded.put(u.status().document(), now);
                  round.tell(news(kept, u, now));
                });
      }
    }
  }

  private Unsaved unsaved(Kept kept, Watch.Status status, Instant now) {
    UUID document = status.document();
    Instant written = status.everSaved() ? status.modified() : firstSeen(kept, document);
    boolean busy =
        status.heldBy() != null || written != null && now.isBefore(written.plus(JUST_WRITTEN));
    return new Unsaved(
        status,
        new Reminder(
            written,
            kept.open(document).mayHoldWork(),
            busy,
            reminded.get(document),
            putOff.get(document)),
        kept.project().planFor(document).reminder());
  }

  private static News news(Kept kept, Unsaved unsaved, Instant now) {
    UUID document = unsaved.status().document();
    String name = Path.of(kept.watch().path(document)).getFileName().toString();
    String age = Words.age(Duration.between(unsaved.reminder().written(), now));
    return new News(
        Kind.REMINDER,
        About.document(kept.project().id(), "/versions", document),
        "Save " + name + " now?",
        unsaved.status().everSaved()
            ? "It was last written " + age + " ago."
            : "It was never saved; its program holds it since " + age + " at least.");
  }

  @Nullable
  private static Instant firstSeen(Kept kept, UUID document) {
    return kept.folder()
        .history()
        .document(document)
        .map(JournalEntry.DocumentSet::at)
        .orElse(null);
  }
}
