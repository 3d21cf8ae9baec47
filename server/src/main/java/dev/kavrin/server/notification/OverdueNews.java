package dev.kavrin.server.notification;

import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.units.Words;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Backups that should have been made by the plan, and which nothing in it holds back. */
@Component
class OverdueNews implements NewsSource {
  /** A large file takes its time, others may come first, and Kavrin may have been away. */
  private static final Duration GRACE = Duration.ofMinutes(5);

  @Override
  public void look(Collection<Kept> projects, Round round) {
    for (Kept kept : projects) {
      kept.watch().status().stream()
          .filter(s -> isOverdue(kept.project().planFor(s.document()), s, round.now()))
          .filter(s -> round.begins("overdue " + s.document(), GRACE))
          .forEach(s -> round.tell(news(kept, s, round.now())));
    }
  }

  /** Past the moment at which the plan has it made come what may. */
  static boolean isOverdue(Plan plan, Watch.Status status, Instant now) {
    return status.pendingSince() != null
        && status.heldBy() == null
        && plan.dueAfter()
            .map(after -> status.pendingSince().plus(after).plus(plan.hardLimit()))
            .filter(now::isAfter)
            .isPresent();
  }

  private static News news(Kept kept, Watch.Status status, Instant now) {
    UUID document = status.document();
    String name = Path.of(kept.watch().path(document)).getFileName().toString();
    return new News(
        Kind.OVERDUE,
        About.document(kept.project().id(), "/versions", document),
        "The backup of " + name + " is overdue",
        "No backup holds what changed "
            + Words.age(Duration.between(status.pendingSince(), now))
            + " ago"
            + (status.problem() == null ? ": it waits its turn." : ": " + status.problem() + "."));
  }
}
