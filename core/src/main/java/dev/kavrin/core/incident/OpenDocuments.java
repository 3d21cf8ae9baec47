package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.host.Instance;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.LockFileSeen;
import dev.kavrin.core.journal.ProgramSeen;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.NamePattern;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;

/** Follows which documents are open in which instance of their program, and what ends. */
final class OpenDocuments {
  private static final Duration CLOCK_PUT_RIGHT = Duration.ofSeconds(10);

  private final BackupFolders folders;
  private final Processes processes;
  private final OpenLook look;
  private final ProgramDiary diary;
  private final InstantSource clock;
  private final Map<UUID, OpenDocument> open = new ConcurrentHashMap<>();
  private final Map<UUID, Held> held = new HashMap<>();
  private final Set<Instance.Id> inOrder = new HashSet<>();
  private volatile List<Instance> running = List.of();
  private Set<Instance.Id> before = Set.of();
  private boolean someEnded;
  @Nullable private Instant lastAlive;
  @Nullable private ProgramDiary.Interrupted interrupted;

  OpenDocuments(Disk disk, BackupFolders folders, Processes processes, InstantSource clock) {
    this.folders = folders;
    this.processes = processes;
    this.look = new OpenLook(disk, processes);
    this.diary = new ProgramDiary(folders, processes, clock);
    this.clock = clock;
  }

  /** Who had a document at the last look, and when that was. */
  private record Held(Set<Instance.Id> by, boolean sure, Instant at, boolean recorded) {}

  /**
   * An instance that had a document open, or may have had it, is gone.
   *
   * @param lastAlive when it was last known alive
   * @param sure true if it is known to have had the document
   * @param othersRun true while another instance is alive
   * @param cut what went down with it
   */
  record Ended(Instant lastAlive, boolean sure, boolean othersRun, Cut cut) {}

  /**
   * What ended together with an instance, after a start of Kavrin.
   *
   * @param work when the work began during which the machine went down; null if it did not
   * @param hadItOpen true if the document was noted as open before
   * @param kavrinToo true if Kavrin was cut off on a machine that went on
   */
  record Cut(@Nullable Instant work, boolean hadItOpen, boolean kavrinToo) {
    static final Cut NONE = new Cut(null, false, false);
  }

  /** How a document stood at the last look. */
  OpenDocument of(UUID document) {
    return open.getOrDefault(document, OpenDocument.NOT_LOOKED);
  }

  /** When the program was last alive, as long as something of its end is to be looked into. */
  @Nullable
  Instant lastAlive() {
    return lastAlive;
  }

  boolean runs() {
    return !running.isEmpty();
  }

  List<Instance> running() {
    return running;
  }

  /** Looks at all documents once. */
  void look(ProjectRecord project, Collection<JournalEntry.DocumentSet> documents, boolean mayRead)
      throws IOException {
    running = processes.instances(project.program().process());
    lookBack(project);
    Set<Instance.Id> alive = running.stream().map(Instance::id).collect(Collectors.toSet());
    someEnded |= before.stream().anyMatch(i -> !alive.contains(i));
    before = alive;
    Path folder = Path.of(project.folder());
    Collection<Path> paths = folders.livePaths(project);
    boolean lockSeen = isLockRecorded(project);
    for (JournalEntry.DocumentSet d : documents) {
      OpenLook.Notes notes =
          new OpenLook.Notes(lock -> isOfAnIncident(d.id(), lock), lockSeen, mayRead);
      open.put(d.id(), look.of(project, folder.resolve(d.path()), running, paths, notes));
    }
    if (runs()) {
      lastAlive = clock.instant();
    }
    noteWhatClosedInOrder(documents);
    try {
      if (look.sawLock(project.program()) && !lockSeen) {
        folders.record(
            new LockFileSeen(
                clock.instant(), project.id(), project.program().sessionSign().toString()));
      }
      diary.look(project, recorded(documents));
    } catch (IOException unwritable) {
      // What the diary could not write waits for the next look; what the program left must not.
    }
  }

  private boolean isLockRecorded(ProjectRecord project) {
    NamePattern pattern = project.program().sessionSign();
    return pattern != null
        && LockFileSeen.isToldBy(folders.history(), project.id(), pattern.toString());
  }

  /** True if a lock file of then was left behind by an end that was told already. */
  private boolean isOfAnIncident(UUID document, Instant lock) {
    return folders.history().incidents().stream()
        .filter(i -> !i.kind().equals(IncidentWatch.ASKED) || !i.open())
        .anyMatch(i -> i.documents().contains(document) && !i.to().isBefore(lock));
  }

  /** An instance that takes a lock file along when it goes leaves none behind by accident. */
  private void noteWhatClosedInOrder(Collection<JournalEntry.DocumentSet> documents) {
    for (JournalEntry.DocumentSet d : documents) {
      Held was = held.get(d.id());
      if (was != null && of(d.id()).state() == OpenDocument.State.CLOSED) {
        inOrder.addAll(gone(was));
      }
    }
  }

  private void lookBack(ProjectRecord project) {
    diary
        .lookBack(project)
        .ifPresent(
            cut -> {
              interrupted = cut;
              lastAlive = cut.last().at();
              cut.last().instances().forEach(ran -> hold(ran, cut.last()));
            });
  }

  private void hold(ProgramSeen.Ran ran, ProgramSeen last) {
    Set<Instance.Id> by = Set.of(known(ran));
    boolean alone = last.instances().size() == 1;
    ran.open().forEach(d -> held.put(d, new Held(by, alone, last.at(), true)));
  }

  /** A clock put right since makes the same instance another second old. */
  private Instance.Id known(ProgramSeen.Ran ran) {
    return running.stream()
        .map(Instance::id)
        .filter(i -> i.pid() == ran.pid())
        .filter(
            i -> Duration.between(i.started(), ran.started()).abs().compareTo(CLOCK_PUT_RIGHT) < 0)
        .findFirst()
        .orElse(new Instance.Id(ran.pid(), ran.started()));
  }

  private List<ProgramSeen.Ran> recorded(Collection<JournalEntry.DocumentSet> documents) {
    return running.stream()
        .map(
            i ->
                new ProgramSeen.Ran(
                    processes.name(),
                    i.pid(),
                    i.started(),
                    i.user(),
                    documents.stream()
                        .map(JournalEntry.DocumentSet::id)
                        .filter(d -> of(d).by().contains(i.id()))
                        .sorted()
                        .toList()))
        .toList();
  }

  /** What ended for a document since it was last settled; null if nothing did. */
  @Nullable
  Ended ended(UUID document) {
    OpenDocument now = of(document);
    Held was = held.get(document);
    if (was != null && was.recorded() && machineWentDown()) {
      return new Ended(was.at(), was.sure(), runs(), cut(was));
    }
    if (now.isHere() && now.sure()) {
      return null;
    }
    if (was == null) {
      boolean anyMayHaveHadIt = !runs() || someEnded && now.state() == OpenDocument.State.UNKNOWN;
      return lastAlive != null && anyMayHaveHadIt
          ? new Ended(lastAlive, false, runs(), cut(null))
          : null;
    }
    Set<Instance.Id> gone = gone(was);
    boolean all = gone.size() == was.by().size();
    if (gone.isEmpty() || !all && inOrder.containsAll(gone)) {
      return null;
    }
    return new Ended(was.at(), was.sure() && all, runs(), cut(was));
  }

  private Set<Instance.Id> gone(Held was) {
    return was.by().stream().filter(i -> !before.contains(i)).collect(Collectors.toSet());
  }

  private boolean machineWentDown() {
    return interrupted != null && interrupted.machineWentDown();
  }

  private Cut cut(@Nullable Held was) {
    if (interrupted == null) {
      return Cut.NONE;
    }
    boolean hadIt = was != null && was.recorded();
    return new Cut(
        machineWentDown() ? interrupted.last().from() : null,
        hadIt,
        hadIt && interrupted.kavrinWasCutOff());
  }

  /** What ended for this document was looked into. */
  void settled(UUID document) {
    OpenDocument now = of(document);
    held.remove(document);
    if (now.isHere()) {
      held.put(document, new Held(now.by(), now.sure(), clock.instant(), false));
    }
  }

  /** What ended for all documents was looked into. */
  void settled() {
    someEnded = false;
    inOrder.clear();
    interrupted = null;
    if (!runs()) {
      lastAlive = null;
    }
  }

  void leave() throws IOException {
    diary.leave();
  }
}
