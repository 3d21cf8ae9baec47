package dev.kavrin.core.incident;

import dev.kavrin.core.host.Processes;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProgramSeen;
import dev.kavrin.core.journal.ProgramSeen.Ran;
import dev.kavrin.core.journal.ProgramWrote;
import dev.kavrin.core.journal.ProjectRecord;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;

/**
 * Writes down when a project's program was alive and at work, so that the next start knows what ran
 * before the machine went down, and working time ends where the work did, not at its last write.
 */
final class ProgramDiary {
  private static final Duration BEAT = Duration.ofMinutes(5);

  /** Nobody looked for so long: the machine slept, or Kavrin was held up. */
  private static final Duration UNSEEN = BEAT.multipliedBy(3);

  private static final Duration PAUSE = Duration.ofMinutes(45);

  /** Share of one processor's time above which a program works (own rule, no source). */
  private static final double AT_WORK = 0.02;

  private final BackupFolders folders;
  private final Processes processes;
  private final InstantSource clock;
  private boolean lookedBack;
  @Nullable private ProgramSeen open;
  @Nullable private Duration used;

  ProgramDiary(BackupFolders folders, Processes processes, InstantSource clock) {
    this.folders = folders;
    this.processes = processes;
    this.clock = clock;
  }

  /**
   * What ran when Kavrin last knew, and may run no more.
   *
   * @param machineWentDown true if the machine was started anew since
   */
  record Interrupted(ProgramSeen last, boolean machineWentDown) {
    /** True if Kavrin was cut off, and did not stop in order. */
    boolean kavrinWasCutOff() {
      return !machineWentDown && !last.left();
    }
  }

  /** What was not known to have ended when the last one stopped; once, before the first look. */
  Optional<Interrupted> lookBack(ProjectRecord project) {
    if (lookedBack) {
      return Optional.empty();
    }
    lookedBack = true;
    open =
        folders.history().programSeen(project.id()).stream()
            .filter(p -> !p.ended())
            .max(Comparator.comparing(ProgramSeen::at))
            .orElse(null);
    return Optional.ofNullable(open)
        .map(
            last ->
                new Interrupted(
                    last, !last.boot().isEmpty() && !last.boot().equals(processes.boot())));
  }

  /** Notes which instances run, and what they have open; at once if that is another set. */
  void look(ProjectRecord project, List<Ran> running) throws IOException {
    Instant now = clock.instant();
    if (open != null && Duration.between(open.at(), now).compareTo(UNSEEN) > 0) {
      record(open.over(open.at()));
      open = null;
    } else if (open != null && (running.isEmpty() || !isOfThisStart(open))) {
      record(open.over(now));
      open = null;
    }
    if (running.isEmpty()) {
      return;
    }
    if (open == null) {
      used = processes.used(project.program().process()).orElse(null);
      note(ProgramSeen.begun(now, project.id(), processes.boot()).having(running));
    } else if (Duration.between(open.at(), now).compareTo(BEAT) >= 0) {
      beat(project, now, running);
    } else if (!open.instances().equals(running)) {
      note(open.having(running));
    }
  }

  /** Kavrin stops in order: the next one takes nothing of this for a cut. */
  void leave() throws IOException {
    if (open != null) {
      note(open.leaving(clock.instant()));
    }
  }

  private boolean isOfThisStart(ProgramSeen seen) {
    return seen.boot().isEmpty() || seen.boot().equals(processes.boot());
  }

  private void beat(ProjectRecord project, Instant now, List<Ran> running) throws IOException {
    boolean works = isAtWork(project, open.at(), now);
    boolean longAgo = Duration.between(open.to(), now).compareTo(PAUSE) > 0;
    if (works && longAgo) {
      record(open.over(now));
      note(open.anew(now).having(running));
    } else {
      note((works ? open.atWork(now) : open.alive(now)).having(running));
    }
  }

  /** By a save, or by a copy of the program's own. */
  private Stream<Instant> written(UUID document) {
    return Stream.concat(
        folders.history().lastWritten(document).map(JournalEntry.Written::modified).stream(),
        folders.history().programWrote(document).stream().map(ProgramWrote::modified));
  }

  private void note(ProgramSeen seen) throws IOException {
    open = seen;
    record(seen);
  }

  private boolean isAtWork(ProjectRecord project, Instant since, Instant now) {
    Duration before = used;
    used = processes.used(project.program().process()).orElse(null);
    boolean computes =
        before != null
            && used != null
            && used.minus(before).toNanos() > AT_WORK * Duration.between(since, now).toNanos();
    return computes
        || folders.history().documents(project.id()).stream()
            .flatMap(d -> written(d.id()))
            .anyMatch(m -> m.isAfter(since) && !m.isAfter(now));
  }

  private void record(ProgramSeen seen) throws IOException {
    folders.record(seen);
  }
}
