package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.keep.Counts;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What a change of plan changes, said value by value. */
class DifferenceTest {
  private static final Plan PLAN =
      Plan.every(Duration.ofMinutes(25), Counts.newest(6), Duration.ofMinutes(45));

  @Test
  void eachChangedValueIsALineAndTheSameIsNone() {
    Plan changed =
        PLAN.every(Duration.ofMinutes(8))
            .with(Counts.newest(19))
            .onEverySave()
            .reminding(Duration.ofMinutes(20))
            .with(new Light(false, List.of("*.tmp"), 6));
    assertThat(Difference.of(PLAN, changed))
        .containsExactlyInAnyOrder(
            "every save: off → on",
            "interval: 25 min → 8 min",
            "keep newest: 6 → 19",
            "light entries 1: none → *.tmp",
            "reminder: 0 s → 20 min");
    assertThat(Difference.of(changed, changed)).isEmpty();
  }

  @Test
  void aKindThatIsOffHasNoTimedCopies() {
    Plan off = PLAN.without(List.of(".STL"));
    assertThat(off.forKind("stl").timed()).isFalse();
    assertThat(off.forKind("glb")).isEqualTo(off);
    assertThat(off.forKind("glb").timed()).isTrue();
  }
}
