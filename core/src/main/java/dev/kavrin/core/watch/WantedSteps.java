package dev.kavrin.core.watch;

import dev.kavrin.core.backup.RunFolder.StepFile;
import dev.kavrin.core.backup.RunFolder.StepFiles;
import dev.kavrin.core.backup.SplitSteps;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.version.Runs;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Role;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Which of a run's steps are to be taken.
 *
 * @param steps that lie on disk
 * @param sets that are held
 * @param now by the steady clock
 */
record WantedSteps(List<StepFiles> steps, List<SetRecord> sets, Duration now) {
  /** A step with its place in the order of the work and the roles that are wanted of it. */
  record Wanted(Runs.Step place, StepFiles files, Set<Role> roles) {}

  /** All steps on disk in the order of the work, those that are held already with their run. */
  List<Runs.Step> order() {
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
    return step.all().anyMatch(f -> holds(set, f));
  }

  private static boolean holds(SetRecord set, StepFile file) {
    return set.members().stream()
        .filter(m -> m.path().equals(file.relative()))
        .filter(m -> m.modified().equals(file.facts().modified()))
        .anyMatch(m -> m.content().length() == file.facts().size());
  }

  /** True if one set has all files of that role that the step has. */
  boolean isHeld(StepFiles step, Role role) {
    List<StepFile> files = step.files().getOrDefault(role, List.of());
    return !files.isEmpty()
        && sets.stream()
            .filter(s -> s.step() == step.step() && s.settled())
            .anyMatch(s -> files.stream().allMatch(f -> holds(s, f)));
  }

  /** Those the plan wants, in the order of the work. */
  List<Wanted> wanted(SetRule rule, SplitSteps split, Plan plan) {
    List<Runs.Step> order = order();
    Set<Runs.Step> restarts = Set.copyOf(wantedRestarts(order, plan));
    List<Wanted> wanted = new ArrayList<>();
    for (Runs.Step place : order) {
      StepFiles files = files(place);
      Set<Role> roles = EnumSet.noneOf(Role.class);
      boolean restart = restarts.contains(place) && rule.member(Role.RESTART).isPresent();
      boolean result =
          plan.timed()
              && rule.member(Role.RESULT).isPresent()
              && plan.runs().wantsResult(place.step());
      List<SetRecord> lacking =
          sets.stream().filter(s -> s.place().equals(place) && !s.lacks().isEmpty()).toList();
      boolean whole = lacking.stream().anyMatch(SplitSteps::told) && split.lacks(files).isEmpty();
      if (restart && (whole || !isHeld(files, Role.RESTART))) {
        roles.add(Role.RESTART);
      }
      if (result && (whole || !isHeld(files, Role.RESULT))) {
        roles.add(Role.RESULT);
      }
      boolean known = !lacking.isEmpty() && !whole;
      boolean anyThere = roles.stream().anyMatch(files.files()::containsKey);
      if (anyThere && !(known && wasTakenAsItIs(files))) {
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
  private boolean wasTakenAsItIs(StepFiles files) {
    return files.files().keySet().stream().allMatch(role -> isHeld(files, role));
  }

  StepFiles files(Runs.Step place) {
    return steps.stream().filter(s -> s.step() == place.step()).findFirst().orElseThrow();
  }

  /** Only those that the count would not drop again at once. */
  private List<Runs.Step> wantedRestarts(List<Runs.Step> order, Plan plan) {
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
              .filter(f -> !isHeld(f, Role.RESTART) && isAfterHeld(f))
              .map(StepFiles::since)
              .min(Comparator.naturalOrder())
              .filter(s -> now.compareTo(s.plus(plan.interval())) >= 0)
              .isPresent();
      if (due && !wanted.contains(newest)) {
        wanted.add(newest);
      }
    }
    int count = Math.max(1, plan.runs().restarts());
    return wanted.subList(Math.max(0, wanted.size() - count), wanted.size());
  }

  private boolean isAfterHeld(StepFiles step) {
    return sets.stream()
        .filter(s -> s.has(Role.RESTART))
        .noneMatch(s -> s.written().isAfter(step.written()));
  }
}
