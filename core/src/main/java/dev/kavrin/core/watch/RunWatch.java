package dev.kavrin.core.watch;

import dev.kavrin.core.backup.RunFolder;
import dev.kavrin.core.backup.RunFolder.StepFile;
import dev.kavrin.core.backup.RunFolder.StepFiles;
import dev.kavrin.core.backup.RunStatus;
import dev.kavrin.core.backup.SetBackup;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.plan.Pauses;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.version.Runs;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Role;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/** Watches the steps of one run and takes those its plan wants. Guarded by its watch. */
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
  private Duration dueSince;
  private boolean held;

  /** A step with its place in the order of the work and the roles that are wanted of it. */
  private record Wanted(Runs.Step place, StepFiles files, Set<Role> roles) {}

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
  boolean tick(ProjectRecord project, boolean handsOff) throws IOException {
    look(project);
    Plan plan = project.planFor(document);
    List<Wanted> wanted = wanted(project.sets(), plan);
    dueSince =
        wanted.stream().map(w -> w.files().since()).min(Comparator.naturalOrder()).orElse(null);
    held = dueSince != null && handsOff && holds(plan.handsOff());
    boolean taken = false;
    for (Wanted step : held ? List.<Wanted>of() : wanted) {
      taken |= take(project, plan, step);
    }
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
      long size = step.files().values().stream().mapToLong(f -> f.facts().size()).sum();
      recoveries.record(
          new JournalEntry.Written(clock.instant(), document, step.written(), size, null));
    }
  }

  private static Duration pause(Duration resting) {
    Duration pause = resting.dividedBy(60);
    return pause.compareTo(RARELY) > 0 ? RARELY : pause;
  }

  private List<SetRecord> sets() {
    return recoveries.history().sets(document);
  }

  /** All steps on disk in the order of the work, those that are held already with their run. */
  private List<Runs.Step> order() {
    List<SetRecord> sets = sets();
    List<Runs.Step> held = new ArrayList<>();
    List<Runs.Seen> free = new ArrayList<>();
    for (StepFiles step : steps) {
      Optional<SetRecord> set =
          sets.stream().filter(s -> s.step() == step.step() && holdsAny(s, step)).findFirst();
      if (set.isPresent()) {
        held.add(set.get().place());
      } else {
        free.add(new Runs.Seen(step.step(), step.written()));
      }
    }
    List<Runs.Step> order =
        new ArrayList<>(Runs.order(sets.stream().map(SetRecord::place).toList(), free));
    order.addAll(held);
    order.sort(Comparator.naturalOrder());
    return order;
  }

  private static boolean holdsAny(SetRecord set, StepFiles step) {
    return step.files().entrySet().stream().anyMatch(f -> holds(set, f.getKey(), f.getValue()));
  }

  private static boolean holds(SetRecord set, Role role, StepFile file) {
    return set.member(role)
        .filter(m -> m.path().equals(file.relative()))
        .filter(m -> m.modified().equals(file.facts().modified()))
        .filter(m -> m.content().length() == file.facts().size())
        .isPresent();
  }

  private boolean isHeld(List<SetRecord> sets, StepFiles step, Role role) {
    StepFile file = step.files().get(role);
    return file != null
        && sets.stream()
            .anyMatch(s -> s.step() == step.step() && s.settled() && holds(s, role, file));
  }

  private List<Wanted> wanted(SetRule rule, Plan plan) {
    List<Runs.Step> order = order();
    List<SetRecord> sets = sets();
    Set<Runs.Step> restarts = Set.copyOf(wantedRestarts(order, sets, plan));
    List<Wanted> wanted = new ArrayList<>();
    for (Runs.Step place : order) {
      StepFiles files = files(place);
      Set<Role> roles = EnumSet.noneOf(Role.class);
      boolean restart = restarts.contains(place) && rule.member(Role.RESTART).isPresent();
      boolean result =
          plan.timed()
              && rule.member(Role.RESULT).isPresent()
              && plan.runs().wantsResult(place.step());
      if (restart && !isHeld(sets, files, Role.RESTART)) {
        roles.add(Role.RESTART);
      }
      if (result && !isHeld(sets, files, Role.RESULT)) {
        roles.add(Role.RESULT);
      }
      boolean known = sets.stream().anyMatch(s -> s.place().equals(place) && !s.lacks().isEmpty());
      boolean anyThere = roles.stream().anyMatch(files.files()::containsKey);
      if (anyThere && !(known && wasTakenAsItIs(sets, files))) {
        wanted.add(new Wanted(place, files, both(restart, result)));
      }
    }
    return wanted;
  }

  private static Set<Role> both(boolean restart, boolean result) {
    Set<Role> roles = EnumSet.noneOf(Role.class);
    if (restart) {
      roles.add(Role.RESTART);
    }
    if (result) {
      roles.add(Role.RESULT);
    }
    return roles;
  }

  /** An incomplete step is not taken again and again while nothing new of it came. */
  private boolean wasTakenAsItIs(List<SetRecord> sets, StepFiles files) {
    return files.files().keySet().stream().allMatch(role -> isHeld(sets, files, role));
  }

  private StepFiles files(Runs.Step place) {
    return steps.stream().filter(s -> s.step() == place.step()).findFirst().orElseThrow();
  }

  /** Only those that the count would not drop again at once. */
  private List<Runs.Step> wantedRestarts(List<Runs.Step> order, List<SetRecord> sets, Plan plan) {
    List<Runs.Step> wanted = new ArrayList<>();
    if (plan.everySteps() > 0 || plan.everySave()) {
      long every = Math.max(1, plan.everySave() ? 1 : plan.everySteps());
      wanted.addAll(order.stream().filter(s -> s.step() % every == 0).toList());
    }
    if (!plan.interval().isZero() && !order.isEmpty()) {
      Runs.Step newest = order.get(order.size() - 1);
      boolean due =
          order.stream()
              .map(this::files)
              .filter(f -> !isHeld(sets, f, Role.RESTART) && isAfterHeld(sets, f))
              .map(StepFiles::since)
              .min(Comparator.naturalOrder())
              .filter(s -> clock.running().compareTo(s.plus(plan.interval())) >= 0)
              .isPresent();
      if (due && !wanted.contains(newest)) {
        wanted.add(newest);
      }
    }
    int count = Math.max(1, plan.runs().restarts());
    return wanted.subList(Math.max(0, wanted.size() - count), wanted.size());
  }

  private static boolean isAfterHeld(List<SetRecord> sets, StepFiles step) {
    return sets.stream()
        .filter(s -> s.member(Role.RESTART).isPresent())
        .noneMatch(s -> s.written().isAfter(step.written()));
  }

  /** False if it is better to wait: for its files to rest, or for one that is yet to come. */
  private boolean take(ProjectRecord project, Plan plan, Wanted step) throws IOException {
    Map<Role, StepFile> files = new EnumMap<>(step.files().files());
    List<SetRecord> sets = sets();
    files.keySet().removeIf(r -> !step.roles().contains(r) && !isHeld(sets, step.files(), r));
    Duration since = step.files().since();
    boolean passed =
        steps.stream()
            .anyMatch(
                s -> s.step() > step.place().step() && s.written().isAfter(step.files().written()));
    boolean rests = clock.running().compareTo(since.plus(plan.quiet())) >= 0;
    boolean waitedLong = clock.running().compareTo(since.plus(plan.hardLimit())) >= 0;
    boolean complete = files.keySet().containsAll(step.roles());
    if (!(rests || passed) || !(complete || passed || waitedLong)) {
      return false;
    }
    List<String> lacks = new ArrayList<>(step.files().told());
    step.roles().stream()
        .filter(r -> !files.containsKey(r))
        .forEach(r -> lacks.add("its " + r.words() + " is missing"));
    if (!files.containsKey(Role.RESTART)
        && !step.roles().contains(Role.RESTART)
        && project.sets().member(Role.RESTART).isPresent()) {
      lacks.add("its restart file is not kept by the plan");
    }
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

  /** Takes the newest step because a person says so; empty if there is none. */
  Optional<SetRecord> takeNewest(ProjectRecord project, String cause, String note)
      throws IOException {
    steps = folder.look(project.sets(), setup);
    List<Runs.Step> order = order();
    if (order.isEmpty()) {
      return Optional.empty();
    }
    Runs.Step newest = order.get(order.size() - 1);
    StepFiles files = files(newest);
    return Optional.of(
        maker.take(
            new SetBackup.Order(
                project,
                new SetBackup.Place(document, newest.run(), newest.step()),
                setup,
                files.files(),
                files.told(),
                cause,
                note,
                false)));
  }

  /** Null while the run has no steps. */
  @Nullable
  RunStatus status() {
    List<Runs.Step> order = order();
    if (order.isEmpty()) {
      return null;
    }
    Runs.Step newest = order.get(order.size() - 1);
    Optional<SetRecord> kept =
        sets().stream().filter(s -> s.member(Role.RESTART).isPresent()).reduce((a, b) -> b);
    return new RunStatus(
        newest.run(),
        newest.step(),
        newest.written(),
        kept.map(SetRecord::run).orElse(null),
        kept.map(SetRecord::step).orElse(null),
        kept.map(SetRecord::written).orElse(null),
        files(newest).told());
  }
}
