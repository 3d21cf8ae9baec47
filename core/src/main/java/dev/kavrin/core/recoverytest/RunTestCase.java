package dev.kavrin.core.recoverytest;

import dev.kavrin.core.journal.ProjectRecord;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/**
 * A run that is rehearsed.
 *
 * @param project with the plan and the set rule that are to be proven
 * @param path of the set-up in its project
 * @param setup what the set-up holds
 * @param steps of one run in their order, whole; played again as the work of the drill
 * @param aStep computing time of one step
 */
public record RunTestCase(
    ProjectRecord project,
    UUID document,
    String path,
    Path setup,
    List<Played> steps,
    Duration aStep,
    FailureMode way) {
  /** The longest wait between two steps that is played in full; a longer one teaches no more. */
  private static final Duration LONGEST = Duration.ofMinutes(30);

  /**
   * A step.
   *
   * @param files what they hold, by their path below the folder of the run
   */
  public record Played(long step, Map<String, Path> files) {
    public Played {
      files = Map.copyOf(files);
    }
  }

  public RunTestCase {
    steps = List.copyOf(steps);
    if (steps.size() < 2) {
      throw new IllegalArgumentException(
          "A recovery test plays earlier steps again and needs two whole ones");
    }
  }

  /** Time from one played step to the next. */
  Duration gap(int step) {
    long apart = Math.max(1, steps.get(step + 1).step() - steps.get(step).step());
    Duration gap = aStep.multipliedBy(apart);
    return gap.compareTo(LONGEST) > 0 ? LONGEST : gap;
  }
}
