package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** When a disk is full, with everybody's writes counted. */
class FreeHistoryTest {
  private static final Instant NINE = Instant.parse("2031-03-03T09:00:00Z");
  private static final long GB = 1_000_000_000L;

  /** A disk that loses so much an hour is full when what is free is used up at that rate. */
  @Property(tries = 200)
  void aSteadyLossIsFullWhenItIsUsedUp(
      @ForAll @IntRange(min = 1, max = 40) int gigabytesAnHour,
      @ForAll @IntRange(min = 60, max = 3_000) int minutes) {
    FreeHistory history = new FreeHistory();
    long free = 4_000 * GB;
    for (int m = 0; m <= minutes; m += 5) {
      history.note(NINE.plusSeconds(60L * m), free - gigabytesAnHour * GB * m / 60);
    }
    Instant now = NINE.plusSeconds(60L * (minutes - minutes % 5));
    long left = free - gigabytesAnHour * GB * (minutes - minutes % 5) / 60;
    Duration wanted = Duration.ofSeconds(left * 3600 / (gigabytesAnHour * GB));
    assertThat(history.growth().orElseThrow().usedUp(left, now))
        .satisfies(
            at -> {
              if (wanted.compareTo(Duration.ofDays(30)) < 0) {
                assertThat(Duration.between(now, at.orElseThrow()))
                    .isCloseTo(wanted, Duration.ofSeconds(5));
              }
            });
  }

  @Test
  void nothingIsSaidBeforeAnHourWasSeenAndOfADiskThatEmpties() {
    FreeHistory history = new FreeHistory();
    assertThat(history.growth()).isEmpty();
    history.note(NINE, 10 * GB);
    history.note(NINE.plusSeconds(3000), 9 * GB);
    assertThat(history.growth()).isEmpty();
    history.note(NINE.plusSeconds(7200), 12 * GB);
    assertThat(history.growth().orElseThrow().usedUp(12 * GB, NINE.plusSeconds(7200))).isEmpty();
  }

  /** What was a day ago says nothing about today. */
  @Test
  void onlyTheLastDayCounts() {
    FreeHistory history = new FreeHistory();
    history.note(NINE, 100 * GB);
    history.note(NINE.plus(Duration.ofHours(30)), 50 * GB);
    history.note(NINE.plus(Duration.ofHours(40)), 40 * GB);
    assertThat(history.growth().orElseThrow()).isEqualTo(new Growth(10 * GB, Duration.ofHours(10)));
  }

  @Test
  void aDriveThatIsNearlyFullOrWillBeWithinADayIsToldAndNoOther() {
    Instant now = Instant.parse("2031-03-03T12:00:00Z");
    assertThat(new FreeHistory().filling(now)).as("nobody looked").isEmpty();
    FreeHistory little = new FreeHistory();
    little.note(now, 700_000_000);
    assertThat(little.filling(now))
        .hasValueSatisfying(
            f -> {
              assertThat(f.free()).isEqualTo(700_000_000);
              assertThat(f.fullAt()).isNull();
            });
    FreeHistory fills = new FreeHistory();
    fills.note(now.minus(Duration.ofHours(4)), 100_000_000_000L);
    fills.note(now, 60_000_000_000L);
    assertThat(fills.filling(now))
        .as("10 GB an hour, 60 left")
        .hasValueSatisfying(f -> assertThat(f.fullAt()).isEqualTo(now.plus(Duration.ofHours(6))));
    FreeHistory slowly = new FreeHistory();
    slowly.note(now.minus(Duration.ofHours(4)), 100_000_000_000L);
    slowly.note(now, 99_000_000_000L);
    assertThat(slowly.filling(now)).isEmpty();
    FreeHistory empties = new FreeHistory();
    empties.note(now.minus(Duration.ofHours(4)), 60_000_000_000L);
    empties.note(now, 100_000_000_000L);
    assertThat(empties.filling(now)).isEmpty();
  }
}
