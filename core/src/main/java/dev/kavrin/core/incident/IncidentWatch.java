package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.host.Instance;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.incident.DocumentEnd.Seen;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.profile.EndSigns.Judgement;
import dev.kavrin.core.watch.FolderHours.Rests;
import dev.kavrin.core.watch.PauseRule;
import java.io.IOException;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;

/**
 * Notices that a project's program died, retains what it left behind at once, then secures it.
 * Needs folder and journal only. Outside the hours of a place no file is read, so that a crash only
 * its file could tell is noticed when the hours begin. Noticing waits for neither reading nor
 * copying of what is large.
 */
public final class IncidentWatch {
  /** Closed with unsaved work, on purpose. */
  public static final String MEANT = "meant";

  /** Open elsewhere, or left behind: nobody knows yet. */
  public static final String ASKED = "asked";

  private final Disk disk;
  private final BackupFolders recoveries;
  private final RetainedLeftovers leftovers;
  private final DocumentEnd end;
  private final Processes processes;
  private final PauseRule busy;
  private final Lanes lanes;
  private final OpenDocuments open;
  private final OwnCopies ownCopies;
  private final PastAnswers answers;
  private final InstantSource clock;
  private final List<RetainedLeftovers.Retained> owed = new CopyOnWriteArrayList<>();
  private boolean lookedForOwed;

  /** With no hours of its own, and all done at once. */
  public IncidentWatch(
      Disk disk,
      BackupFolders folders,
      RetainedLeftovers leftovers,
      Inspector inspector,
      Processes processes,
      InstantSource clock) {
    this(disk, folders, leftovers, inspector, processes, Rests.NEVER, Lanes.HERE, clock);
  }

  /**
   * @param lanes have the reading and the copying done
   */
  public IncidentWatch(
      Disk disk,
      BackupFolders recoveries,
      RetainedLeftovers leftovers,
      Inspector inspector,
      Processes processes,
      Rests rests,
      Lanes lanes,
      InstantSource clock) {
    this.lanes = lanes;
    this.disk = disk;
    this.recoveries = recoveries;
    this.leftovers = leftovers;
    this.end = new DocumentEnd(disk, recoveries, inspector, lanes, clock);
    this.processes = processes;
    this.busy = new PauseRule(disk, processes, rests);
    this.open = new OpenDocuments(disk, recoveries, processes, clock);
    this.ownCopies = new OwnCopies(disk, recoveries, clock);
    this.answers = new PastAnswers(recoveries);
    this.clock = clock;
  }

  public boolean programRuns(ProjectRecord project) {
    return processes.runs(project.program().process());
  }

  /** The instances of its program that ran at the last look. */
  public List<Instance> instances() {
    return open.running();
  }

  /** How a document stood at the last look: open here, elsewhere, closed, or nobody can tell. */
  public OpenDocument open(UUID document) {
    return open.of(document);
  }

  /** Bytes of what is retained of a project's leftovers until it is copied. */
  public List<Long> retained(ProjectRecord project) {
    return own(project).stream()
        .flatMap(d -> leftovers.still(project, d.id(), d.path()).stream())
        .map(r -> r.original().facts().size())
        .toList();
  }

  /** Kavrin stops in order: the next start takes nothing that is open now for cut off. */
  public synchronized void leave() throws IOException {
    open.leave();
  }

  /**
   * Looks once.
   *
   * @return the incident that was noticed, its leftovers retained and to be {@link #secure secured}
   */
  public synchronized Optional<JournalEntry.IncidentSet> tick(ProjectRecord project)
      throws IOException {
    boolean rests = busy.outOfHours(project).isPresent();
    List<JournalEntry.DocumentSet> documents = own(project);
    open.look(project, documents, !rests);
    if (open.runs() && !rests) {
      note(project, documents);
    }
    Map<Judgement, List<Seen>> seen = new EnumMap<>(Judgement.class);
    boolean unread = false;
    for (JournalEntry.DocumentSet known : documents) {
      OpenDocuments.Ended ended = open.ended(known.id());
      Seen s = end.look(project, known, open.of(known.id()), ended, !rests);
      Judgement judged = s.signs().judge();
      if (s.beingRead() && judged != Judgement.CRASH) {
        unread = true;
      } else if (ended == null && open.of(known.id()).isHere()) {
        open.settled(known.id());
      } else {
        seen.computeIfAbsent(judged, j -> new ArrayList<>()).add(s);
      }
    }
    if (rests && !seen.containsKey(Judgement.CRASH)) {
      return Optional.empty();
    }
    Optional<JournalEntry.IncidentSet> raised = raised(project, seen);
    seen.values().forEach(all -> all.forEach(s -> open.settled(s.document().id())));
    if (!unread) {
      open.settled();
    }
    return raised;
  }

  private void note(ProjectRecord project, List<JournalEntry.DocumentSet> documents) {
    for (JournalEntry.DocumentSet d : documents) {
      try {
        if (open.of(d.id()).mayBeHere()) {
          ownCopies.look(project, d);
        }
      } catch (IOException unwritable) {
        // Figures lack it then; what the program left must be noticed all the same.
      }
    }
  }

  private Optional<JournalEntry.IncidentSet> raised(
      ProjectRecord project, Map<Judgement, List<Seen>> seen) throws IOException {
    List<Seen> unsaved = seen.getOrDefault(Judgement.CLOSED_WITH_UNSAVED_WORK, List.of());
    if (seen.containsKey(Judgement.CRASH)) {
      List<Seen> down = new ArrayList<>(seen.get(Judgement.CRASH));
      down.addAll(unsaved);
      return Optional.of(raise(project, down, "crash"));
    }
    if (!unsaved.isEmpty()) {
      return Optional.of(
          raise(project, unsaved, answers.meantEachTime(project) ? MEANT : "closed"));
    }
    return seen.containsKey(Judgement.OPEN_ELSEWHERE_OR_LEFT)
        ? Optional.of(raise(project, seen.get(Judgement.OPEN_ELSEWHERE_OR_LEFT), ASKED))
        : Optional.empty();
  }

  /** Its documents without what they lean on. */
  private List<JournalEntry.DocumentSet> own(ProjectRecord project) {
    return recoveries.history().documents(project.id()).stream().filter(d -> !d.linked()).toList();
  }

  /** Raises an incident because a person says so, for all documents of the project. */
  public synchronized JournalEntry.IncidentSet report(ProjectRecord project) throws IOException {
    List<Seen> all = new ArrayList<>();
    for (JournalEntry.DocumentSet d : own(project)) {
      all.add(Seen.reported(d, open.lastAlive()));
    }
    JournalEntry.IncidentSet incident = raise(project, all, "reported");
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
    for (RetainedLeftovers.Retained retained : owed) {
      try {
        if (!rests || retained.cannotWait()) {
          lanes.run(
              Lane.SECURE,
              retained.original().facts().size(),
              "securing " + retained.original().path(),
              () -> secure(project, retained));
        }
      } catch (IOException failed) {
        failure = failed;
      }
    }
    if (failure != null) {
      throw failure;
    }
  }

  private void secure(ProjectRecord project, RetainedLeftovers.Retained retained)
      throws IOException {
    leftovers.secure(project, retained);
    owed.remove(retained);
  }

  private JournalEntry.IncidentSet raise(ProjectRecord project, List<Seen> seen, String kind)
      throws IOException {
    Instant now = clock.instant();
    UUID id = UUID.randomUUID();
    List<Leftovers.Leftover> found = new ArrayList<>();
    for (Seen s : seen) {
      found.addAll(
          Leftovers.find(
              disk,
              project,
              s.document().id(),
              s.document().path(),
              recoveries.livePaths(project)));
    }
    found.removeIf(this::isOwed);
    owed.addAll(leftovers.retain(found, id));
    Instant from =
        seen.stream()
            .flatMap(s -> Optional.ofNullable(s.lastAlive()).stream())
            .max(Instant::compareTo)
            .orElseGet(() -> lastSignOfLife(seen, now));
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
