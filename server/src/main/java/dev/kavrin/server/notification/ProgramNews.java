package dev.kavrin.server.notification;

import dev.kavrin.core.settings.SettingsAudit;
import dev.kavrin.core.settings.SettingsLink;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import dev.kavrin.server.program.ProgramAudits;
import java.time.Instant;
import java.util.Collection;
import java.util.HashSet;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Programs whose own autosave is off, that lost the settings they had, or may have by an update.
 */
@Component
class ProgramNews implements NewsSource {
  private final ProgramAudits audits;

  /** Settings that said what is wanted of them when they were seen last. */
  private final Set<SettingsLink> asWanted = new HashSet<>();

  ProgramNews(ProgramAudits audits) {
    this.audits = audits;
  }

  @Override
  public void look(Collection<Kept> projects, Round round) {
    for (Kept kept : projects) {
      audits.of(kept).filter(s -> s.audit() != null).ifPresent(s -> look(kept, s, round));
    }
  }

  private void look(Kept kept, ProgramAudits.Standing standing, Round round) {
    SettingsAudit audit = standing.audit();
    SettingsLink settings = kept.project().program().settings();
    if (standing.updated() != null) {
      updated(kept, standing.updated(), round);
    } else if (audit.isOff()) {
      off(kept, round);
    } else if (settings == null) {
      // What a person looked up stays so until they look again, or the program is updated.
      return;
    } else if (audit.changes().isEmpty()) {
      asWanted.add(settings);
    } else if (!kept.incidents().instances().isEmpty() && asWanted.remove(settings)) {
      lost(kept, audit, round);
    }
  }

  private static boolean canPutRight(Kept kept) {
    SettingsLink settings = kept.project().program().settings();
    return settings != null && !settings.kind().isReadOnly();
  }

  private static About about(Kept kept) {
    return About.project(kept.project().id(), "/programs");
  }

  private static void off(Kept kept, Round round) {
    if (round.begins("off " + kept.project().id())) {
      round.tell(
          new News(
              Kind.OWN_SAFETY_OFF,
              about(kept),
              "The own autosave of " + kept.project().program().name() + " is off",
              "Until it is on, only what is saved in "
                  + kept.project().name()
                  + " can be copied. "
                  + (canPutRight(kept)
                      ? "Kavrin can put it right."
                      : "Kavrin cannot write its settings: set it in the program.")));
    }
  }

  /** Nothing can read them: only a person can tell whether the update left them as they were. */
  private static void updated(Kept kept, Instant at, Round round) {
    String program = kept.project().program().name();
    if (round.begins("updated " + kept.project().id() + " " + at)) {
      round.tell(
          new News(
              Kind.OWN_SAFETY_OFF,
              about(kept),
              "Look at the autosave settings of " + program + " again",
              "It was updated after they were looked up. Kavrin cannot read them; an update may"
                  + " have changed them."));
    }
  }

  /** A program that crashed or was updated may start with what it came with. */
  private static void lost(Kept kept, SettingsAudit audit, Round round) {
    round.tell(
        new News(
            Kind.OWN_SAFETY_OFF,
            about(kept),
            kept.project().program().name() + " lost the settings of its autosave",
            audit.lines().stream()
                .filter(line -> line.put() != null)
                .map(SettingsAudit.Line::words)
                .collect(
                    Collectors.joining(". ", "They were as wanted before it started: ", "."))));
  }
}
