package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.RunCounts;
import java.time.Duration;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** What a plan for runs comes to, by figures that can be checked by hand. */
class RunFiguresTest {
  private static Plan plan(int every, int restarts, int everyResult) {
    return Plan.every(Duration.ZERO, Counts.newest(5), Duration.ofMinutes(30))
        .onSteps(every, new RunCounts(restarts, everyResult, false));
  }

  private static RunInputs inputs(Integer minutes) {
    return new RunInputs(
        minutes == null ? null : Duration.ofMinutes(minutes), 2_000_000, 50_000_000, 200, 3, 2);
  }

  /** Common practice, no source: every step, keep five: the fifth last is four steps back. */
  @Test
  void everyStepKeepFiveReachesFourToFiveStepsBack() {
    RunFigures figures = RunFigures.of(plan(1, 5, 1), inputs(3));
    assertThat(figures.reachFrom()).isEqualTo(4);
    assertThat(figures.reachTo()).isEqualTo(5);
    assertThat(figures.lostSteps()).isEqualTo(1);
    assertThat(figures.lost()).isEqualTo(Duration.ofMinutes(3));
  }

  @Test
  void roomIsRestartsAndResultsOfAWholeRunInEachPlace() {
    RunFigures figures = RunFigures.of(plan(10, 5, 20), inputs(3));
    assertThat(figures.footprint()).isEqualTo((5 * 2_000_000L + 10 * 50_000_000L) * 3 * 2);
    assertThat(figures.loadPerHour()).isEqualTo(2 * 20 * (2_000_000 / 10 + 50_000_000 / 20));
    assertThat(figures.lost()).isEqualTo(Duration.ofMinutes(30));
    assertThat(figures.warnings()).isEmpty();
    assertThat(RunFigures.of(plan(11, 5, 20), inputs(3)).warnings())
        .singleElement()
        .asString()
        .contains("33 min of computing", "30 min");
  }

  @Test
  void anIntervalInMinutesCountsAsTheStepsThatFitIntoIt() {
    Plan byTime =
        Plan.every(Duration.ofMinutes(20), Counts.newest(5), Duration.ofHours(2))
            .onSteps(0, new RunCounts(5, 0, false));
    assertThat(RunFigures.of(byTime, inputs(3)).lostSteps()).isEqualTo(7);
    assertThat(RunFigures.of(byTime, inputs(null)).lostSteps()).as("nothing tells").isZero();
    assertThat(RunFigures.of(byTime.onEverySave(), inputs(3)).lostSteps()).isEqualTo(1);
  }

  @Test
  void zeroAndOneRestartFilesAndNoCadenceAreTold() {
    assertThat(RunFigures.of(plan(5, 0, 1), inputs(1)).warnings())
        .anyMatch(w -> w.startsWith("Zero restart files"));
    assertThat(RunFigures.of(plan(5, 1, 1), inputs(1)).warnings())
        .anyMatch(w -> w.startsWith("Only the latest"));
    assertThat(RunFigures.of(plan(0, 5, 1), inputs(1)).warnings())
        .anyMatch(w -> w.startsWith("No copies by step"));
  }

  @Property(tries = 200)
  void noFigureIsNegativeAndFewerCopiesNeverCostMore(
      @ForAll @IntRange(min = 1, max = 50) int every,
      @ForAll @IntRange(max = 50) int restarts,
      @ForAll @IntRange(max = 50) int everyResult) {
    RunFigures figures = RunFigures.of(plan(every, restarts, everyResult), inputs(2));
    RunFigures fewer = RunFigures.of(plan(every + 1, restarts, everyResult), inputs(2));
    assertThat(figures.footprint()).isNotNegative().isGreaterThanOrEqualTo(fewer.footprint());
    assertThat(figures.loadPerHour()).isGreaterThanOrEqualTo(fewer.loadPerHour());
    assertThat(figures.lostSteps()).isLessThan(fewer.lostSteps());
  }
}
