package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.EndSigns;
import dev.kavrin.core.watch.FolderHours;
import dev.kavrin.core.watch.PauseRule;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/**
 * Notices that a project's program died, retains what it left behind at once, then secures it.
 * Needs folder and journal only. Outside the hours of a place no file is read, so that a crash only
 * its file could tell is noticed when the hours begin. Calls are serialised.
 */
public final class IncidentWatch {
  /** Closed with unsaved work, on purpose. */
  public static final String MEANT = "meant";

  private static final int ANSWERS = 2;

  private final Disk disk;
  private final BackupFolders recoveries;
  private final RetainedLeftovers leftovers;
  private final Inspector inspector;
  private final Processes processes;
  private final PauseRule busy;
  private final InstantSource clock;
  private final List<RetainedLeftovers.Retained> owed = new ArrayList<>();
  private final Instant started;
  private boolean lookedForOwed;
  private Instant lastAlive;

  public IncidentWatch(
      Disk disk,
      BackupFolders recoveries,
      RetainedLeftovers leftovers,
      Inspector inspector,
      Processes processes,
      FolderHours.Rests rests,
      InstantSource clock) {
    this.disk = disk;
    this.recoveries = recoveries;
    this.leftovers = leftovers;
    this.inspector = inspector;
    this.processes = processes;
    this.busy = new PauseRule(disk, processes, rests);
    this.clock = clock;
    this.started = clock.instant();
  }

  /** A document with what was seen of it. */
  private record Seen(JournalEntry.DocumentSet document, EndSigns signs, String evidence) {}

  public boolean programRuns(ProjectRecord project) {
    return processes.runs(project.program().process());
  }

  /**
   * Looks once.
   *
   * @return the incident that was noticed, its leftovers retained and to be {@link #secure secured}
   */
  public synchronized Optional<JournalEntry.IncidentSet> tick(ProjectRecord project)
      throws IOException {
    Instant now = clock.instant();
    if (programRuns(project)) {
      lastAlive = now;
      return Optional.empty();
    }
    boolean rests = busy.outOfHours(project).isPresent();
    List<Seen> crashed = new ArrayList<>();
    List<Seen> closed = new ArrayList<>();
    for (JournalEntry.DocumentSet known : own(project)) {
      Seen seen = look(project, known, !rests);
      switch (seen.signs().judge()) {
        case CRASH -> crashed.add(seen);
        case CLOSED_WITH_UNSAVED_WORK -> closed.add(seen);
        case NOTHING -> {}
      }
    }
    if (rests && crashed.isEmpty()) {
      return Optional.empty();
    }
    Optional<JournalEntry.IncidentSet> raised = Optional.empty();
    if (!crashed.isEmpty()) {
      raised = Optional.of(raise(project, crashed, "crash", lastAlive, now));
    } else if (!closed.isEmpty()) {
      String kind = isKnownToBeMeant(project) ? MEANT : "closed";
      raised = Optional.of(raise(project, closed, kind, lastAlive, now));
    }
    lastAlive = null;
    return raised;
  }

  /** What people answered the last times is not asked again. */
  private boolean isKnownToBeMeant(ProjectRecord project) {
    List<String> answers =
        recoveries.history().incidents().stream()
            .filter(i -> i.project().equals(project.id()) && !i.open())
            .sorted(Comparator.comparing(JournalEntry.IncidentSet::to).reversed())
            .map(JournalEntry.IncidentSet::kind)
            .limit(ANSWERS)
            .toList();
    return answers.size() == ANSWERS && answers.stream().allMatch(MEANT::equals);
  }

  /** Its documents without what they lean on. */
  private List<JournalEntry.DocumentSet> own(ProjectRecord project) {
    return recoveries.history().documents(project.id()).stream().filter(d -> !d.linked()).toList();
  }

  private Seen look(ProjectRecord project, JournalEntry.DocumentSet document, boolean mayRead)
      throws IOException {
    Path live = Path.of(project.folder()).resolve(document.path());
    Optional<FileFacts> sign =
        project.program().signFor(live).isPresent()
            ? disk.facts(project.program().signFor(live).get())
            : Optional.empty();
    boolean signLeft = sign.filter(s -> !isKnown(document.id(), s.modified())).isPresent();
    boolean ran = lastAlive != null || signLeft;
    if (!ran) {
      return new Seen(
          document, new EndSigns(false, false, false, false, Verdict.NOT_CHECKED, false), "");
    }
    Optional<FileFacts> facts = disk.facts(live).filter(FileFacts::isFile);
    boolean news = facts.filter(f -> !isKnown(document.id(), f.modified())).isPresent();
    Verdict verdict =
        !news || !mayRead
            ? Verdict.NOT_CHECKED
            : inspector.inspect(live, live.getFileName().toString()).verdict();
    Instant since = lastAlive == null ? started : lastAlive.minusSeconds(5);
    boolean rescue = false;
    boolean newer = false;
    for (Leftovers.Leftover l : Leftovers.find(disk, project, document.id(), document.path())) {
      rescue |= l.kind() == CopyKind.RESCUE && l.facts().modified().isAfter(since);
      newer |=
          l.kind() == CopyKind.AUTOSAVE
              && facts
                  .map(f -> l.facts().modifiedNanos() > f.modifiedNanos())
                  .orElseGet(() -> !isKnown(document.id(), l.facts().modified()));
    }
    String evidence =
        document.path()
            + ": "
            + String.join(
                ", ",
                java.util.stream.Stream.of(
                        signLeft ? "its session sign was left behind" : "",
                        verdict == Verdict.DAMAGED ? "the file is damaged" : "",
                        rescue ? "a rescue file was written" : "",
                        newer && facts.isEmpty()
                            ? "it was never saved, an autosave of it stands"
                            : "",
                        newer && facts.isPresent() ? "an autosave is newer than the file" : "")
                    .filter(t -> !t.isEmpty())
                    .toList());
    return new Seen(
        document, new EndSigns(false, true, signLeft, rescue, verdict, newer), evidence);
  }

  /** True if what stood there then is part of an incident already. */
  private boolean isKnown(UUID document, Instant since) {
    return recoveries.history().incidents().stream()
        .anyMatch(i -> i.documents().contains(document) && !i.to().isBefore(since));
  }

  /** Raises an incident because a person says so, for all documents of the project. */
  public synchronized JournalEntry.IncidentSet report(ProjectRecord project) throws IOException {
    List<Seen> all = new ArrayList<>();
    for (JournalEntry.DocumentSet d : own(project)) {
      all.add(new Seen(d, null, d.path() + ": reported by a person"));
    }
    JournalEntry.IncidentSet incident = raise(project, all, "reported", lastAlive, clock.instant());
    secure(project);
    return incident;
  }

  /**
   * Copies what was retained, after a stop too. Outside the hours of a place only what waiting may
   * lose.
   *
   * @throws IOException something could not be copied; it stays retained and is tried again
   */
  public synchronized void secure(ProjectRecord project) throws IOException {
    if (!lookedForOwed) {
      lookedForOwed = true;
      for (JournalEntry.DocumentSet d : own(project)) {
        leftovers.still(project, d.id(), d.path()).stream()
            .filter(r -> owed.stream().noneMatch(o -> o.from().equals(r.from())))
            .forEach(owed::add);
      }
    }
    boolean rests = busy.outOfHours(project).isPresent();
    IOException failure = null;
    for (RetainedLeftovers.Retained retained : List.copyOf(owed)) {
      try {
        if (!rests || retained.cannotWait()) {
          leftovers.secure(project, retained);
          owed.remove(retained);
        }
      } catch (IOException failed) {
        failure = failed;
      }
    }
    if (failure != null) {
      throw failure;
    }
  }

  private JournalEntry.IncidentSet raise(
      ProjectRecord project, List<Seen> seen, String kind, Instant alive, Instant now)
      throws IOException {
    UUID id = UUID.randomUUID();
    List<Leftovers.Leftover> found = new ArrayList<>();
    for (Seen s : seen) {
      found.addAll(Leftovers.find(disk, project, s.document().id(), s.document().path()));
    }
    found.removeIf(this::isOwed);
    owed.addAll(leftovers.retain(found, id));
    Instant from = alive != null ? alive : lastSignOfLife(seen, now);
    JournalEntry.IncidentSet incident =
        new JournalEntry.IncidentSet(
            now,
            id,
            project.id(),
            seen.stream().map(s -> s.document().id()).toList(),
            from,
            now,
            kind,
            seen.stream().map(Seen::evidence).toList(),
            !kind.equals(MEANT));
    recoveries.record(incident);
    return incident;
  }

  /** True if it was retained before its incident could be written down. */
  private boolean isOwed(Leftovers.Leftover leftover) {
    return owed.stream()
        .map(RetainedLeftovers.Retained::original)
        .anyMatch(o -> o.path().equals(leftover.path()) && o.facts().sameAs(leftover.facts()));
  }

  private Instant lastSignOfLife(List<Seen> seen, Instant now) {
    return seen.stream()
        .flatMap(s -> recoveries.history().lastWritten(s.document().id()).stream())
        .map(JournalEntry.Written::modified)
        .filter(t -> !t.isAfter(now))
        .max(Instant::compareTo)
        .orElse(now);
  }
}
