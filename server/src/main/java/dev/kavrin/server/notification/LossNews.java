package dev.kavrin.server.notification;

import dev.kavrin.core.journal.JournalEntry.LossAsked;
import dev.kavrin.core.plan.Reminder;
import dev.kavrin.core.units.Words;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

/**
 * Saves that took much away, and files of which more would be lost than is accepted because the
 * plan holds their backup back. What a program holds in its memory is what reminders are for.
 */
@Component
class LossNews implements NewsSource {
  private final Instant begun;

  LossNews(InstantSource clock) {
    this.begun = clock.instant();
  }

  @Override
  public void look(Collection<Kept> projects, Round round) {
    for (Kept kept : projects) {
      kept.folder().history().openLosses(kept.project().id()).stream()
          .filter(l -> isRecent(kept, l))
          .filter(l -> round.begins("sudden loss " + l.document() + " " + l.after()))
          .forEach(l -> round.tell(sudden(kept, l)));
      kept.watch().status().stream()
          .filter(s -> isPast(accepted(kept, s), s, round.now()))
          .filter(s -> round.begins("loss " + s.document()))
          .forEach(s -> round.tell(past(kept, s, round.now())));
    }
  }

  /** What was saved before Kavrin started is asked about on the overview, without a message. */
  private boolean isRecent(Kept kept, LossAsked loss) {
    return kept.folder().history().captures(loss.document()).stream()
        .filter(c -> c.state().equals(loss.after()))
        .noneMatch(c -> c.workTo().isBefore(begun));
  }

  private static Duration accepted(Kept kept, Watch.Status status) {
    return kept.project().planFor(status.document()).accepted();
  }

  /** A loss as short as reminders never are is told by nobody. */
  static boolean isPast(Duration accepted, Watch.Status status, Instant now) {
    return status.pendingSince() != null
        && status.heldBy() != null
        && now.isAfter(status.pendingSince().plus(Reminder.proposed(accepted)));
  }

  private static News past(Kept kept, Watch.Status status, Instant now) {
    return new News(
        Kind.LOSS,
        about(kept, status.document()),
        name(kept, status.document()) + " stands past the loss you accept",
        "If the file is lost, the work of "
            + Words.age(Duration.between(status.pendingSince(), now))
            + " is lost with it; you accept "
            + Words.age(accepted(kept, status))
            + ". Its backup is held back: "
            + status.heldBy()
            + ".");
  }

  private static News sudden(Kept kept, LossAsked loss) {
    return new News(
        Kind.SUDDEN_LOSS,
        new About(Set.of(kept.project().id()), "/overview", List.of(loss.document())),
        "A save of " + name(kept, loss.document()) + " took much away",
        String.join(", ", loss.losses()) + ". The version before it is kept.");
  }

  private static About about(Kept kept, UUID document) {
    return About.document(kept.project().id(), "/versions", document);
  }

  private static String name(Kept kept, UUID document) {
    return Path.of(kept.watch().path(document)).getFileName().toString();
  }
}
