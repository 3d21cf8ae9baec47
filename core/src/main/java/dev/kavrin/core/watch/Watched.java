package dev.kavrin.core.watch;

import dev.kavrin.core.backup.RunStatus;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.plan.Cadence;
import dev.kavrin.core.units.Clockwork;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;

/** What is known of one live file. Safe for several threads: it is looked at while it is copied. */
final class Watched {
  private final UUID id;
  private final String path;
  private FileFacts seen;
  private FileFacts refused;
  private Instant pendingSince;
  private Duration changed;
  private Duration wrote = Duration.ZERO;
  private boolean grew;
  private String heldBy;
  private Instant heldSince;
  private String closed;
  private Instant closedSince;
  private Duration released;
  private NextWrite asked;
  private String problem;

  /**
   * A person waits for the next write.
   *
   * @param seen how the file stood when they asked
   */
  private record NextWrite(FileFacts seen, String note) {}

  Watched(UUID id, String path) {
    this.id = id;
    this.path = path;
  }

  UUID id() {
    return id;
  }

  String path() {
    return path;
  }

  synchronized FileFacts seen() {
    return seen;
  }

  synchronized void vanished() {
    seen = null;
    grew = false;
  }

  synchronized boolean differs(FileFacts now) {
    return seen == null || !now.sameAs(seen);
  }

  /** Takes in how the file stands after a write; {@code held} if a copy holds just that. */
  synchronized void written(FileFacts now, boolean held, Clockwork clock) {
    boolean first = seen == null;
    Duration age = Duration.between(now.modified(), clock.instant());
    Duration before = clock.running().minus(age.isNegative() ? Duration.ZERO : age);
    grew = !first && now.size() > seen.size();
    seen = now;
    wrote = first ? before : clock.running();
    if (held) {
      copied();
    } else if (changed == null) {
      changed = wrote;
      pendingSince = first && !age.isNegative() ? now.modified() : clock.instant();
    }
  }

  /** Still writing, as a read just found out. */
  synchronized void moved(Clockwork clock) {
    wrote = clock.running();
  }

  /** It rests, as a second look shows. */
  synchronized void rested(Duration quiet, Clockwork clock) {
    if (clock.running().compareTo(wrote.plus(quiet)) >= 0) {
      grew = false;
    }
  }

  synchronized boolean grows() {
    return grew;
  }

  private void copied() {
    changed = null;
    pendingSince = null;
    problem = null;
  }

  /** A copy holds what stood there then; what was written since waits on. */
  synchronized void copied(FileFacts then, Clockwork clock) {
    boolean writtenSince = seen != null && !seen.sameAs(then);
    copied();
    if (writtenSince) {
      changed = wrote;
      pendingSince = clock.instant();
    }
  }

  synchronized void refuse(FileFacts then, String why) {
    refused = then;
    problem = why;
  }

  synchronized boolean isRefused() {
    return refused != null && refused.sameAs(seen);
  }

  /** What keeps Kavrin's hands off it now, or null. */
  synchronized void handsOff(@Nullable String reason, Clockwork clock) {
    if (reason == null && heldBy != null) {
      released = clock.running();
      heldSince = null;
    } else if (reason != null && heldBy == null) {
      heldSince = clock.instant();
    }
    heldBy = reason;
  }

  /** The hours of its place; unlike the plan's reasons they have no limit. Null while they hold. */
  synchronized void outOfHours(@Nullable String reason, Clockwork clock) {
    if (reason == null && closed != null) {
      released = clock.running();
      closedSince = null;
    } else if (reason != null && closed == null) {
      closedSince = clock.instant();
    }
    closed = reason;
  }

  synchronized void ask(String note) {
    asked = new NextWrite(seen, note);
  }

  synchronized void stopAsking() {
    asked = null;
  }

  /** Once the write a person waits for has come, their note, which may be empty. */
  synchronized Optional<String> awaitedWriteCame() {
    boolean came =
        asked != null && seen != null && (asked.seen() == null || !seen.sameAs(asked.seen()));
    return came ? Optional.of(asked.note() == null ? "" : asked.note()) : Optional.empty();
  }

  synchronized void problem(String words) {
    problem = words;
  }

  synchronized Cadence.Waiting waiting() {
    return new Cadence.Waiting(
        changed, wrote, heldBy != null, released, awaitedWriteCame().isPresent());
  }

  synchronized Watch.Status status(boolean due, boolean everSaved, @Nullable RunStatus run) {
    return new Watch.Status(
        id,
        seen != null,
        seen != null || everSaved,
        seen == null ? null : seen.modified(),
        seen == null ? 0 : seen.size(),
        pendingSince,
        closed != null && changed != null ? closed : due ? heldBy : null,
        closed != null && changed != null ? closedSince : due ? heldSince : null,
        asked != null,
        problem,
        run);
  }
}
