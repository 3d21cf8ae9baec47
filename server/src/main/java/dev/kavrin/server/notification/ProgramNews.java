package dev.kavrin.server.notification;

import dev.kavrin.core.settings.SettingsAudit;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import dev.kavrin.server.program.ProgramAudits;
import java.util.Collection;
import org.springframework.stereotype.Component;

/** Programs whose own autosave is off. */
@Component
class ProgramNews implements NewsSource {
  private final ProgramAudits audits;

  ProgramNews(ProgramAudits audits) {
    this.audits = audits;
  }

  @Override
  public void look(Collection<Kept> projects, Round round) {
    for (Kept kept : projects) {
      if (isOff(kept) && round.begins("off " + kept.project().id())) {
        round.tell(
            new News(
                Kind.OWN_SAFETY_OFF,
                About.project(kept.project().id(), "/programs"),
                "The own autosave of " + kept.project().program().name() + " is off",
                "Until it is on, only what is saved in "
                    + kept.project().name()
                    + " can be copied. Kavrin can put it right."));
      }
    }
  }

  private boolean isOff(Kept kept) {
    return audits
        .of(kept)
        .map(ProgramAudits.Standing::audit)
        .filter(SettingsAudit::isOff)
        .isPresent();
  }
}
