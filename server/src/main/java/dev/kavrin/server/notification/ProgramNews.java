package dev.kavrin.server.notification;

import dev.kavrin.core.settings.SettingsAudit;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import dev.kavrin.server.program.ProgramAudits;
import java.util.Collection;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Programs whose own autosave is off, or that were started with other settings than wanted. */
@Component
class ProgramNews implements NewsSource {
  private final ProgramAudits audits;

  ProgramNews(ProgramAudits audits) {
    this.audits = audits;
  }

  @Override
  public void look(Collection<Kept> projects, Round round) {
    for (Kept kept : projects) {
      audits
          .of(kept)
          .map(ProgramAudits.Standing::audit)
          .ifPresent(
              audit -> {
                if (audit.isOff()) {
                  off(kept, round);
                } else {
                  otherwise(kept, audit, round);
                }
              });
    }
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
                  + " can be copied. Kavrin can put it right."));
    }
  }

  /** A program that crashed may start with what it came with. */
  private static void otherwise(Kept kept, SettingsAudit audit, Round round) {
    boolean runs = !kept.incidents().instances().isEmpty();
    if (runs
        && !audit.changes().isEmpty()
        && round.begins("settings " + kept.project().id() + " " + audit.changes())) {
      round.tell(
          new News(
              Kind.OWN_SAFETY_OFF,
              about(kept),
              kept.project().program().name() + " runs with other settings than wanted",
              audit.lines().stream()
                  .filter(line -> line.put() != null)
                  .map(SettingsAudit.Line::words)
                  .collect(Collectors.joining(". ", "", ". Kavrin can put it right."))));
    }
  }
}
