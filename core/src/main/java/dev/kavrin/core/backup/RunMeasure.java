package dev.kavrin.core.backup;

import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.plan.RunInputs;
import dev.kavrin.core.version.SetRule.Role;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.UUID;

/** Measures runs by the steps that were copied so far; the pace is that of the newest runs. */
public final class RunMeasure {
  private RunMeasure() {}

  /**
   * @param runs documents that are runs
   */
  public static RunInputs of(History history, Collection<UUID> runs, int places) {
    List<Duration> perStep = new ArrayList<>();
    long restart = 0;
    long result = 0;
    long steps = 0;
    for (UUID run : runs) {
      List<SetRecord> sets = history.sets(run);
      long newest = sets.isEmpty() ? 0 : sets.get(sets.size() - 1).run();
      SetRecord before = null;
      for (SetRecord set : sets) {
        boolean follows = before != null && before.run() == newest;
        if (follows && set.written().isAfter(before.written())) {
          perStep.add(
              Duration.between(before.written(), set.written())
                  .dividedBy(set.step() - before.step()));
        }
        restart = Math.max(restart, size(set, Role.RESTART));
        result = Math.max(result, size(set, Role.RESULT));
        steps = Math.max(steps, set.step());
        before = set;
      }
    }
    perStep.sort(Duration::compareTo);
    Duration median = perStep.isEmpty() ? null : perStep.get(perStep.size() / 2);
    return new RunInputs(median, restart, result, steps, Math.max(1, runs.size()), places);
  }

  private static long size(SetRecord set, Role role) {
    return set.members(role).stream().mapToLong(m -> m.content().length()).sum();
  }
}
