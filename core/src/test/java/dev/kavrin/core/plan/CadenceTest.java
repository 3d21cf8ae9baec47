package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Cadence.Step;
import dev.kavrin.core.plan.Cadence.Waiting;
import java.time.Duration;
import org.junit.jupiter.api.Test;

class CadenceTest {
  private static final Plan TEN =
      Plan.every(Duration.ofMinutes(10), Counts.newest(5), Duration.ofMinutes(10));
  private static final Pauses WHILE_SOLVING =
      new Pauses("solver", "", false, Duration.ofMinutes(30));

  private static Duration at(long seconds) {
    return Duration.ofSeconds(seconds);
  }

  private static Waiting changed(long wrote) {
    return new Waiting(at(0), at(wrote), false, null, false);
  }

  private static Step step(Plan plan, Waiting document, long now) {
    return Cadence.step(plan, document, at(now));
  }

  @Test
  void copiesAreDueAnIntervalAfterTheFirstChangeAndWaitForRest() {
    Waiting unchanged = new Waiting(null, at(0), false, null, false);
    assertThat(step(TEN, unchanged, 99_999)).isEqualTo(Step.WAIT);
    assertThat(step(TEN, changed(0), 599)).isEqualTo(Step.WAIT);
    assertThat(step(TEN, changed(0), 600)).isEqualTo(Step.COPY);
    assertThat(step(TEN, changed(599), 600)).isEqualTo(Step.WAIT);
    assertThat(step(TEN, changed(719), 720)).isEqualTo(Step.COPY_UNSETTLED);
    Plan none = Plan.every(Duration.ZERO, Counts.newest(5), Duration.ofMinutes(10));
    assertThat(step(none, changed(0), 99_999)).isEqualTo(Step.WAIT);
  }

  @Test
  void everySaveIsDueAtOnceWhateverTheInterval() {
    assertThat(step(TEN.onEverySave(), changed(0), 1)).isEqualTo(Step.WAIT);
    assertThat(step(TEN.onEverySave(), changed(0), 2)).isEqualTo(Step.COPY);
  }

  @Test
  void handsOffHoldsUntilItsLimitAndWhatWasDueIsMadeUpFor() {
    Plan plan = TEN.with(WHILE_SOLVING);
    Waiting held = new Waiting(at(0), at(0), true, null, false);
    assertThat(step(plan, held, 300)).as("nothing is due yet").isEqualTo(Step.WAIT);
    assertThat(step(plan, held, 600)).isEqualTo(Step.HELD);
    assertThat(step(plan, held, 600 + 1799)).isEqualTo(Step.HELD);
    assertThat(step(plan, held, 600 + 1800)).isEqualTo(Step.COPY);
    Waiting released = new Waiting(at(0), at(999), false, at(1000), false);
    assertThat(step(plan, released, 1000)).as("it rests first").isEqualTo(Step.WAIT);
    assertThat(step(plan, released, 1001)).isEqualTo(Step.COPY);
    Waiting busy = new Waiting(at(0), at(1119), false, at(1000), false);
    assertThat(step(plan, busy, 1119)).as("patience counts from the release").isEqualTo(Step.WAIT);
    assertThat(step(plan, busy, 1120)).isEqualTo(Step.COPY_UNSETTLED);
    Plan endless = TEN.with(new Pauses("solver", "", false, Duration.ZERO));
    assertThat(step(endless, held, 9_999_999)).isEqualTo(Step.HELD);
  }

  @Test
  void whatAPersonAsksForIsHeldBackByNothing() {
    Waiting asked = new Waiting(at(0), at(0), true, null, true);
    assertThat(step(TEN.with(WHILE_SOLVING), asked, 1)).isEqualTo(Step.WAIT);
    assertThat(step(TEN.with(WHILE_SOLVING), asked, 2)).isEqualTo(Step.COPY);
  }
}
