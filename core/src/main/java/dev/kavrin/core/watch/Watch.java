package dev.kavrin.core.watch;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.backup.RunFolder;
import dev.kavrin.core.backup.RunStatus;
import dev.kavrin.core.backup.SetBackup;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.lane.Lanes;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.plan.Cadence;
import dev.kavrin.core.plan.Pauses;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.retention.Retention;
import dev.kavrin.core.units.Clockwork;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentSkipListMap;

/**
 * Watches the live files of one project and has them copied by its plan. Needs folders and journals
 * only, no database. Neither looking nor asking how things stand waits for a copy.
 */
public final class Watch {
  private final Disk disk;
  private final BackupFolders recoveries;
  private final BackupMaker maker;
  private final Retention retention;
  private final DocumentBackups backups;
  private final PauseRule busy;
  private final Lanes lanes;
  private final Clockwork clock;
  private final Map<UUID, Watched> documents = new LinkedHashMap<>();
  private final Map<UUID, RunWatch> runs = new ConcurrentHashMap<>();
  private final Map<UUID, String> paths = new ConcurrentSkipListMap<>();
  private final Map<UUID, Status> told = new ConcurrentSkipListMap<>();
  private volatile ProjectRecord project;

  /**
   * How a document stands.
   *
   * @param present the live file is there
   * @param everSaved false if no live file was ever seen there
   * @param modified its last write, null if absent
   * @param pendingSince first change that no copy holds, null if none
   * @param heldBy what holds a copy back on purpose that would be due, null if nothing does
   * @param heldSince since when
   * @param awaited the next write will be copied at once
   * @param problem why no copy could be made, null if all is well
   * @param run how its run stands, null if it is none or has no step yet
   */
  public record Status(
      UUID document,
      boolean present,
      boolean everSaved,
      @Nullable Instant modified,
      long size,
      @Nullable Instant pendingSince,
      @Nullable String heldBy,
      @Nullable Instant heldSince,
      boolean awaited,
      @Nullable String problem,
      @Nullable RunStatus run) {}

  public Watch(
      Disk disk,
      BackupFolders recoveries,
      BackupMaker maker,
      Retention retention,
      Processes processes,
      Clockwork clock,
      ProjectRecord project) {
    this(
        disk,
        recoveries,
        maker,
        retention,
        processes,
        FolderHours.Rests.NEVER,
        Lanes.HERE,
        clock,
        project);
  }

  /**
   * The same where places have hours of their own.
   *
   * @param lanes have the copying done
   */
  public Watch(
      Disk disk,
      BackupFolders recoveries,
      BackupMaker maker,
      Retention retention,
      Processes processes,
      FolderHours.Rests rests,
      Lanes lanes,
      Clockwork clock,
      ProjectRecord project) {
    this.lanes = lanes;
    this.disk = disk;
    this.recoveries = recoveries;
    this.maker = maker;
    this.retention = retention;
    this.backups = new DocumentBackups(disk, recoveries, maker, retention, clock);
    this.busy = new PauseRule(disk, processes, rests);
    this.clock = clock;
    this.project = project;
    recoveries.history().documents(project.id()).forEach(d -> watch(d.id(), d.path()));
  }

  public ProjectRecord project() {
    return project;
  }

  /** Takes a changed plan or folder. */
  public synchronized void change(ProjectRecord changed) {
    project = changed;
  }

  public synchronized void watch(UUID id, String path) {
    paths.put(id, path);
    tell(documents.computeIfAbsent(id, k -> new Watched(k, path)));
  }

  public List<UUID> watched() {
    return List.copyOf(told.keySet());
  }

  /** Where a document's live file stands. */
  public String path(UUID id) {
    return Path.of(project.folder()).resolve(paths.getOrDefault(id, "")).toString();
  }

  /** Why all work on this project's files rests now; empty if it does not. */
  public Optional<String> standsBack() {
    return busy.outOfHours(project).or(() -> busy.reason(project, project.plan().handsOff()));
  }

  /** True while nothing may be read or written, whatever the plan says. */
  public boolean isOutOfHours() {
    return busy.outOfHours(project).isPresent();
  }

  /** Looks at every live file once and has copied what is due. Never throws for one document. */
  public synchronized void tick() {
    String closed = busy.outOfHours(project).orElse(null);
    Map<Pauses, Optional<String>> reasons = new HashMap<>();
    for (Watched document : List.copyOf(documents.values())) {
      try {
        look(document);
        Pauses plan = planFor(document).handsOff();
        String reason = reasons.computeIfAbsent(plan, h -> busy.reason(project, h)).orElse(null);
        boolean grows = plan.growing() && document.grows();
        document.handsOff(reason == null && grows ? "it is growing" : reason, clock);
        document.outOfHours(closed, clock);
        if (closed == null) {
          copyIfDue(document);
          stepsIfDue(document);
        }
      } catch (IOException failed) {
        document.problem(failed.getMessage());
      }
      tell(document);
    }
  }

  private void tell(Watched document) {
    RunWatch run = runs.get(document.id());
    boolean held = step(document) == Cadence.Step.HELD || (run != null && run.isHeld());
    boolean saved = recoveries.history().lastWritten(document.id()).isPresent();
    told.put(document.id(), document.status(held, saved, run == null ? null : run.status()));
  }

  private void stepsIfDue(Watched document) throws IOException {
    if (!project.isRun(document.path())) {
      runs.remove(document.id());
    } else {
      RunWatch run = run(document);
      lanes.run(
          Lane.BACKUP,
          run.bytes(),
          "taking steps of " + live(document),
          () -> steps(document, run));
    }
  }

  /** The hours and the pauses are those of now: it may have waited behind another copy. */
  private void steps(Watched document, RunWatch run) {
    if (isOutOfHours()) {
      return;
    }
    try {
      if (run.tick(project, busy.reason(project, planFor(document).handsOff()).isPresent())) {
        retention.apply(project, document.id());
      }
    } catch (IOException failed) {
      document.problem(failed.getMessage());
    }
    tell(document);
  }

  private RunWatch run(Watched document) {
    return runs.computeIfAbsent(
        document.id(),
        id ->
            new RunWatch(
                id,
                live(document),
                new RunFolder(disk, maker.inspector(), clock),
                new SetBackup(disk, recoveries, maker, clock),
                recoveries,
                clock));
  }

  private Plan planFor(Watched document) {
    return project.planFor(document.id()).forKind(FileName.of(document.path()).lowerExt());
  }

  private Path live(Watched document) {
    return Path.of(project.folder()).resolve(document.path());
  }

  private void look(Watched document) throws IOException {
    Optional<FileFacts> now = disk.facts(live(document)).filter(FileFacts::isFile);
    if (now.isEmpty()) {
      document.vanished();
      return;
    }
    if (!document.differs(now.get())) {
      document.rested(planFor(document).quiet(), clock);
      return;
    }
    document.written(
        now.get(),
        SeenWrites.isBackedUp(
            recoveries.history().captures(document.id()), live(document), now.get()),
        clock);
    boolean told =
        recoveries
            .history()
            .lastWritten(document.id())
            .filter(e -> SeenWrites.tells(e, now.get(), project.isRun(document.path())))
            .isPresent();
    if (!told) {
      recoveries.record(
          new JournalEntry.Written(
              clock.instant(), document.id(), now.get().modified(), now.get().size(), null));
    }
  }

  private Cadence.Step step(Watched document) {
    return Cadence.step(planFor(document), document.waiting(), clock.running());
  }

  private void copyIfDue(Watched document) throws IOException {
    FileFacts seen = document.seen();
    if (seen == null || document.isRefused() || !isDue(step(document))) {
      return;
    }
    lanes.run(Lane.BACKUP, seen.size(), "backing up " + live(document), () -> due(document));
  }

  private static boolean isDue(Cadence.Step step) {
    return step != Cadence.Step.WAIT && step != Cadence.Step.HELD;
  }

  private void due(Watched document) {
    Cadence.Step step = step(document);
    if (isDue(step) && !isOutOfHours()) {
      joined(backups.due(project, document, step == Cadence.Step.COPY_UNSETTLED));
    }
    tell(document);
  }

  private void joined(List<JournalEntry.DocumentSet> linked) {
    linked.forEach(d -> watch(d.id(), d.path()));
  }

  /** Copies what is on disk now, because a person says so; a damaged file too. */
  public BackupMaker.Result copyNow(UUID id, String note) throws IOException {
    return copyNow(id, "by hand", note);
  }

  /** The same for a cause of its own. */
  public BackupMaker.Result copyNow(UUID id, String cause, String note) throws IOException {
    Watched document = known(id);
    synchronized (this) {
      look(document);
    }
    BackupMaker.Result result = backups.now(project, document, cause, note, this::joined);
    if (project.isRun(document.path())
        && run(document).takeNewest(project, cause, note).isPresent()) {
      retention.apply(project, id);
    }
    tell(document);
    if (!result.made() && note != null) {
      recoveries.record(
          new JournalEntry.Marked(
              clock.instant(), id, result.capture().state(), "noted", true, null, note));
    }
    return result;
  }

  /** Copies the next write as soon as it rests; until then the person saves in the program. */
  public synchronized void awaitNextWrite(UUID id, String note) throws IOException {
    Watched document = known(id);
    look(document);
    document.ask(note);
    tell(document);
  }

  public synchronized void stopAwaiting(UUID id) throws NoSuchFileException {
    Watched document = known(id);
    document.stopAsking();
    tell(document);
  }

  private synchronized Watched known(UUID id) throws NoSuchFileException {
    Watched document = documents.get(id);
    if (document == null) {
      throw new NoSuchFileException("document " + id);
    }
    return document;
  }

  public List<Status> status() {
    return List.copyOf(told.values());
  }

  /** Takes a file that is none of the live ones in as a state of a document. */
  public BackupMaker.Result takeIn(BackupOrder order) throws IOException {
    return maker.capture(order);
  }
}
