package dev.kavrin.core.recoverytest;

import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.recoverytest.RunRecoveryTest.Beat;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/**
 * Which step of a run should come back after a crash, by the plan alone.
 *
 * @param beats steps in the order in which they were written
 */
record RunForecast(List<Beat> beats, Plan plan, FailureMode way) {
  Duration loss(Instant crash) {
    return Duration.between(work(crash), crash);
  }

  /** The newest step that should come back: of copies by the plan, of files by what is left. */
  private Instant work(Instant crash) {
    Instant best = beats.get(0).at();
    int left = left();
    for (int i = 0; i < beats.size(); i++) {
      if (i <= left || isCopied(i, crash)) {
        best = beats.get(i).at();
      }
    }
    return best;
  }

  /** The newest step that is whole in the folder of the run, −1 if none is. */
  private int left() {
    if (way == FailureMode.DRIVE_GONE) {
      return -1;
    }
    int last = beats.size() - 1;
    boolean ownNames =
        beats.get(0).played().files().keySet().stream()
            .noneMatch(beats.get(last).played().files()::containsKey);
    return way.leavesFile() ? last : ownNames ? last - 1 : -1;
  }

  private boolean isCopied(int beat, Instant crash) {
    Instant rested = beats.get(beat).at().plus(plan.quiet()).plus(TestHarness.LOOK);
    Instant passed = beat + 1 < beats.size() ? beats.get(beat + 1).at() : rested;
    Instant ready = rested.isBefore(passed) ? rested : passed;
    if (ready.isAfter(crash)) {
      return false;
    }
    long step = beats.get(beat).played().step();
    if (plan.everySave() || plan.everySteps() > 0 && step % plan.everySteps() == 0) {
      return true;
    }
    return !plan.interval().isZero() && isDue(beat, ready, crash);
  }

  /** By time the newest step is taken as soon as the first one not covered is old enough. */
  private boolean isDue(int wanted, Instant ready, Instant crash) {
    int pending = 0;
    for (int i = 0; i <= wanted; i++) {
      Instant due = beats.get(pending).at().plus(plan.interval());
      Instant until = i + 1 < beats.size() ? beats.get(i + 1).at() : crash;
      if (due.isBefore(until)) {
        if (i == wanted) {
          return !ready.isAfter(until);
        }
        pending = i + 1;
      }
    }
    return false;
  }
}
