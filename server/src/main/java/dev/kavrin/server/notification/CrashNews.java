package dev.kavrin.server.notification;

import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Collection;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Programs that ended without being closed, since Kavrin runs. */
@Component
class CrashNews implements NewsSource {
  private final Instant begun;

  CrashNews(InstantSource clock) {
    this.begun = clock.instant();
  }

  @Override
  public void look(Collection<Kept> projects, Round round) {
    for (Kept kept : projects) {
      UUID project = kept.project().id();
      kept.folder().history().incidents().stream()
          .filter(i -> i.project().equals(project) && i.to().isAfter(begun) && i.open())
          .filter(i -> round.begins("incident " + i.id()))
          .forEach(i -> round.tell(news(kept, i)));
    }
  }

  private static News news(Kept kept, JournalEntry.IncidentSet incident) {
    UUID project = kept.project().id();
    return new News(
        Kind.CRASH,
        incident.documents().isEmpty()
            ? About.project(project, "/recover")
            : About.document(project, "/recover", incident.documents().get(0)),
        kept.project().name() + what(incident.kind()),
        "What it left behind is secured. " + String.join(". ", incident.evidence()) + ".");
  }

  private static String what(String kind) {
    return switch (kind) {
      case "closed" -> " was closed with unsaved work";
      case IncidentWatch.ASKED -> " is open elsewhere, or its lock file was left behind";
      default -> " crashed";
    };
  }
}
