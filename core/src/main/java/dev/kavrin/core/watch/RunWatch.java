package dev.kavrin.core.watch;

import dev.kavrin.core.backup.RunFolder;
import dev.kavrin.core.backup.RunFolder.StepFile;
import dev.kavrin.core.backup.RunFolder.StepFiles;
import dev.kavrin.core.backup.RunStatus;
import dev.kavrin.core.backup.SetBackup;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.backup.SplitSteps;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.plan.Pauses;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.version.Runs;
import dev.kavrin.core.version.SetRule.Role;
import dev.kavrin.core.watch.WantedSteps.Wanted;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Stream;

/**
 * Watches the steps of one run and takes those its plan wants. Calls are serialised; asking how it
 * stands never waits for a copy.
 */
final class RunWatch {
  private static final Duration RESTLESS = Duration.ofMinutes(10);
  private static final Duration RARELY = Duration.ofMinutes(10);

  private final UUID document;
  private final Path setup;
  private final RunFolder folder;
  private final SetBackup maker;
  private final BackupFolders recoveries;
  private final Clockwork clock;
  private Duration lookedAt;
  private Duration changedAt;
  private List<Long> folderTimes = List.of();
  private List<StepFiles> steps = List.of();
  private volatile long bytes;
  private Duration dueSince;
  private volatile boolean held;
  @Nullable private volatile RunStatus told;

  RunWatch(
      UUID document,
      Path setup,
      RunFolder folder,
      SetBackup maker,
      BackupFolders recoveries,
      Clockwork clock) {
    this.document = document;
    this.setup = setup;
    this.folder = folder;
    this.maker = maker;
    this.recoveries = recoveries;
    this.clock = clock;
  }

  /**
   * Looks once and takes what is due.
   *
   * @return true if anything was taken
   */
  synchronized boolean tick(ProjectRecord project, boolean handsOff) throws IOException {
    look(project);
    Plan plan = project.planFor(document);
    List<Wanted> wanted = onDisk().wanted(project.sets(), split(project), plan);
    dueSince =
        wanted.stream().map(w -> w.files().since()).min(Comparator.naturalOrder()).orElse(null);
    held = dueSince != null && handsOff && holds(plan.handsOff());
    told = standing(project);
    boolean taken = false;
    for (Wanted step : held ? List.<Wanted>of() : wanted) {
      taken |= take(project, plan, step);
    }
    told = taken ? standing(project) : told;
    return taken;
  }

  private boolean holds(Pauses plan) {
    Duration limit = plan.longestHold();
    return limit == null || clock.running().compareTo(dueSince.plus(limit)) < 0;
  }

  boolean isHeld() {
    return held;
  }

  /**
   * Looks at every file while the run is restless, ever more rarely the longer it rests, and at
   * once when a name came or went in one of its folders.
   */
  private void look(ProjectRecord project) throws IOException {
    Duration now = clock.running();
    List<Long> folders = folder.times(project.sets(), setup);
    boolean rests = changedAt != null && now.compareTo(changedAt.plus(RESTLESS)) > 0;
    if (rests
        && folders.equals(folderTimes)
        && now.compareTo(lookedAt.plus(pause(now.minus(changedAt)))) < 0) {
      return;
    }
    List<StepFiles> seen = folder.look(project.sets(), setup);
    changedAt = changedAt == null || !seen.equals(steps) ? now : changedAt;
    lookedAt = now;
    folderTimes = folders;
    steps = seen;
    bytes = seen.stream().mapToLong(RunWatch::size).max().orElse(0);
    noteWrites();
  }

  /** Every step seen written is noted, copied or not; what was done outlives the states. */
  private void noteWrites() throws IOException {
    Instant told =
        recoveries
            .history()
            .lastWritten(document)
            .map(JournalEntry.Written::modified)
            .orElse(Instant.MIN);
    List<StepFiles> news =
        steps.stream()
            .filter(s -> s.written().isAfter(told))
            .sorted(Comparator.comparing(StepFiles::written))
            .toList();
    for (StepFiles step : news) {
      recoveries.record(
          new JournalEntry.Written(clock.instant(), document, step.written(), size(step), null));
    }
  }

  private static long size(StepFiles step) {
    return step.all().mapToLong(f -> f.facts().size()).sum();
  }

  private static Duration pause(Duration resting) {
    Duration pause = resting.dividedBy(60);
    return pause.compareTo(RARELY) > 0 ? RARELY : pause;
  }

  private WantedSteps onDisk() {
    return new WantedSteps(steps, recoveries.history().sets(document), clock.running());
  }

  private SplitSteps split(ProjectRecord project) {
    return new SplitSteps(
        project.sets(), setup.getFileName().toString(), steps, recoveries.history().sets(document));
  }

  /** False if it is better to wait: for its files to rest, or for one that is yet to come. */
  private boolean take(ProjectRecord project, Plan plan, Wanted step) throws IOException {
    Map<Role, List<StepFile>> files = new EnumMap<>(step.files().files());
    WantedSteps known = onDisk();
    files.keySet().removeIf(r -> !step.roles().contains(r) && !known.isHeld(step.files(), r));
    Duration since = step.files().since();
    boolean passed =
        steps.stream()
            .anyMatch(
                s -> s.step() > step.place().step() && s.written().isAfter(step.files().written()));
    boolean rests = clock.running().compareTo(since.plus(plan.quiet())) >= 0;
    boolean waitedLong = clock.running().compareTo(since.plus(plan.hardLimit())) >= 0;
    SplitSteps split = split(project);
    List<String> lacks = split.lacks(step.files());
    boolean complete =
        files.keySet().containsAll(step.roles()) && lacks.isEmpty() && !split.isFirst(step.files());
    if (!(rests || passed) || !(complete || passed || waitedLong)) {
      return false;
    }
    lacks.addAll(step.files().told());
    lacks.addAll(absent(project, step, files.keySet()));
    try {
      maker.take(
          new SetBackup.Order(
              project,
              new SetBackup.Place(document, step.place().run(), step.place().step()),
              setup,
              files,
              lacks,
              "step",
              null,
              false));
      return true;
    } catch (SourceException.StillWritten moving) {
      return false;
    }
  }

  /** What is not there, or not wanted, in words. */
  private static List<String> absent(ProjectRecord project, Wanted step, Set<Role> there) {
    List<String> absent = new ArrayList<>();
    step.roles().stream()
        .filter(r -> !there.contains(r))
        .forEach(r -> absent.add("its " + r.words() + " is missing"));
    if (!there.contains(Role.RESTART)
        && !step.roles().contains(Role.RESTART)
        && project.sets().member(Role.RESTART).isPresent()) {
      absent.add("its restart file is not kept by the plan");
    }
    return absent;
  }

  /** Takes the newest step because a person says so; empty if there is none. */
  synchronized Optional<SetRecord> takeNewest(ProjectRecord project, String cause, String note)
      throws IOException {
    steps = folder.look(project.sets(), setup);
    WantedSteps known = onDisk();
    List<Runs.Step> order = known.order();
    if (order.isEmpty()) {
      return Optional.empty();
    }
    Runs.Step newest = order.get(order.size() - 1);
    StepFiles files = known.files(newest);
    SetRecord taken =
        maker.take(
            new SetBackup.Order(
                project,
                new SetBackup.Place(document, newest.run(), newest.step()),
                setup,
                files.files(),
                told(project, files),
                cause,
                note,
                false));
    told = standing(project);
    return Optional.of(taken);
  }

  /** About how many bytes a step of it has. */
  long bytes() {
    return bytes;
  }

  /** Null while the run has no steps. */
  @Nullable
  RunStatus status() {
    return told;
  }

  @Nullable
  private RunStatus standing(ProjectRecord project) {
    WantedSteps known = onDisk();
    List<Runs.Step> order = known.order();
    if (order.isEmpty()) {
      return null;
    }
    Runs.Step newest = order.get(order.size() - 1);
    Optional<SetRecord> kept =
        known.sets().stream().filter(s -> s.has(Role.RESTART)).reduce((a, b) -> b);
    return new RunStatus(
        newest.run(),
        newest.step(),
        newest.written(),
        kept.map(SetRecord::run).orElse(null),
        kept.map(SetRecord::step).orElse(null),
        kept.map(SetRecord::written).orElse(null),
        told(project, known.files(newest)));
  }

  private List<String> told(ProjectRecord project, StepFiles step) {
    return Stream.concat(split(project).lacks(step).stream(), step.told().stream()).toList();
  }
}
