package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.ProgramCounts;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;

class PlanTest {
  private static final Instant NOW = Instant.parse("2031-03-03T12:00:00Z");

  private static Plan plan(int minutes, int keep) {
    return Plan.every(Duration.ofMinutes(minutes), Counts.newest(keep), Duration.ofMinutes(10));
  }

  private static PlanInputs inputs(long size, Integer programMinutes) {
    return new PlanInputs(
        size,
        OwnWrites.setTo(programMinutes == null ? null : Duration.ofMinutes(programMinutes)),
        null,
        Duration.ofSeconds(4),
        1,
        1,
        Map.of("/mnt/shelf", 2_000_000L),
        null);
  }

  /** Common practice, no source: a 2 MB file kept 1,000 times is 2 GB. */
  @Test
  void twoMegabytesAThousandTimesAreTwoGigabytes() {
    assertThat(PlanFigures.of(plan(5, 1000), inputs(2_000_000, 5)).footprint())
        .isEqualTo(2_000_000_000L);
  }

  @Test
  void aRecoveryFolderThatIsTooSlowForThePlanIsTold() {
    Plan without = plan(1, 5).with(ProgramCounts.OFF);
    assertThat(PlanFigures.of(without, inputs(100_000_000, 1)).warnings())
        .as("6 GB an hour fit into 7.2")
        .noneMatch(w -> w.contains("too slow"));
    assertThat(PlanFigures.of(plan(1, 5), inputs(100_000_000, 1)).warnings())
        .as("as much again of what the program writes aside does not")
        .anyMatch(w -> w.startsWith("/mnt/shelf is too slow") && w.contains("12.0 GB"));
    assertThat(PlanFigures.of(without, inputs(200_000_000, 1)).warnings())
        .anyMatch(w -> w.startsWith("/mnt/shelf is too slow") && w.contains("12.0 GB"));
  }

  /** Common practice, no source: ten copies at 20 minutes reach back 180 to 200 minutes. */
  @Test
  void tenCopiesEveryTwentyMinutesReachThreeHoursBack() {
    PlanFigures figures = PlanFigures.of(plan(20, 10), inputs(1, 20));
    assertThat(figures.reachFrom()).isEqualTo(Duration.ofMinutes(180));
    assertThat(figures.reachTo()).isEqualTo(Duration.ofMinutes(200));
  }

  @Test
  void ringAndSpansReachFartherAndRoomHoldsTheFootprint() {
    Counts counts = new Counts(10, Duration.ofHours(48), Duration.ofDays(30), Duration.ZERO, 9, 0);
    PlanFigures figures = PlanFigures.of(with(counts), inputs(1_000_000, 20));
    assertThat(figures.reachFrom()).isEqualTo(Duration.ofDays(30));
    assertThat(figures.footprint()).isEqualTo((10 + 48 + 30 + 9) * 1_000_000L);
    Counts ring = new Counts(10, Duration.ZERO, Duration.ZERO, Duration.ZERO, 9, 5_000_000);
    figures = PlanFigures.of(with(ring), inputs(1_000_000, 20));
    assertThat(figures.reachFrom()).isEqualTo(Duration.ofMinutes(20 * 128));
    assertThat(figures.footprint()).isEqualTo(4_000_000);
    assertThat(figures.bin()).isEqualTo(1_000_000);
  }

  /** The last 6 and one an hour for a day of 2 MB every 5 minutes; common practice, no source. */
  @Test
  void whatProgramsWriteAsideTakesItsRoomAndItsLoad() {
    ProgramFigures figures = PlanFigures.of(plan(20, 10), inputs(2_000_000, 5)).programs();
    assertThat(figures.room()).isEqualTo(30 * 2_000_000L);
    assertThat(figures.loadPerHour()).isEqualTo(12 * 2_000_000L);
    assertThat(PlanFigures.of(plan(20, 10), inputs(2_000_000, 120)).programs().room())
        .as("one every two hours leaves twelve a day")
        .isEqualTo((6 + 12) * 2_000_000L);
    assertThat(PlanFigures.of(plan(20, 10), inputs(2_000_000, null)).programs().room()).isZero();
    PlanInputs often =
        new PlanInputs(
            1000, OwnWrites.setTo(Duration.ofMillis(500)), null, null, 1, 1, Map.of(), null);
    assertThat(PlanFigures.of(plan(20, 10), often).programs().loadPerHour())
        .as("twice a second")
        .isEqualTo(7_200_000);
    PlanFigures off = PlanFigures.of(plan(20, 10).with(ProgramCounts.OFF), inputs(2_000_000, 5));
    assertThat(off.programs().room()).isZero();
    Counts limited = new Counts(10, Duration.ZERO, Duration.ZERO, Duration.ZERO, 0, 50_000_000);
    PlanFigures within = PlanFigures.of(with(limited), inputs(2_000_000, 5));
    assertThat(within.footprint() + within.programs().room() + within.bin()).isEqualTo(50_000_000);
  }

  private static Plan with(Counts counts) {
    return plan(20, 1).with(counts);
  }

  @Test
  void theWorstCaseAddsUpAllItsParts() {
    PlanFigures figures = PlanFigures.of(plan(15, 24), inputs(1, 10));
    assertThat(figures.programDies()).isEqualTo(Duration.ofMinutes(10));
    assertThat(figures.fileLost()).isEqualTo(Duration.ofMinutes(10 + 15 + 2).plusSeconds(4));
    assertThat(figures.meanFileLost()).isEqualTo(Duration.ofSeconds((600 + 900 + 120) / 2 + 4));
    assertThat(figures.warnings()).anyMatch(w -> w.contains("more than the 10 min you accept"));
  }

  @Test
  void everySaveLeavesOutTheIntervalAndHandsOffAddsItsLimit() {
    Plan each = plan(15, 24).onEverySave();
    assertThat(PlanFigures.of(each, inputs(1, 10)).fileLost())
        .isEqualTo(Duration.ofMinutes(10 + 2).plusSeconds(4));
    assertThat(PlanFigures.of(each, inputs(1, 10)).reachTo()).isEqualTo(Duration.ofMinutes(240));
    Plan busy = plan(15, 24).with(new Pauses("solver", "", false, Duration.ofMinutes(60)));
    assertThat(PlanFigures.of(busy, inputs(1, 10)).fileLost())
        .isEqualTo(Duration.ofMinutes(10 + 15 + 2 + 60).plusSeconds(4));
    PlanFigures endless =
        PlanFigures.of(busy.with(new Pauses("solver", "", false, null)), inputs(1, 10));
    assertThat(endless.fileLost()).isNull();
    assertThat(endless.warnings()).anyMatch(w -> w.startsWith("Pauses have no limit"));
  }

  @Test
  void whatNobodyKnowsIsCalledUnknown() {
    PlanFigures figures = PlanFigures.of(plan(15, 24), inputs(1, null));
    assertThat(figures.programDies()).isNull();
    assertThat(figures.fileLost()).isNull();
    assertThat(figures.programDiesWhy().filled()).contains("unknown");
  }

  @Test
  void aDeviceIsFullWhenItsRoomIsUsedUpAtTheRateSeen() {
    Growth growth = new Growth(24_000_000_000L, Duration.ofDays(1));
    assertThat(growth.usedUp(10_000_000_000L, NOW)).contains(NOW.plus(Duration.ofHours(10)));
    assertThat(growth.usedUp(0, NOW)).contains(NOW);
    assertThat(growth.usedUp(1_000_000_000_000L, NOW)).isEmpty();
    assertThat(new Growth(0, Duration.ofDays(1)).usedUp(1, NOW)).isEmpty();
  }

  @Test
  void risksAreToldNotForbidden() {
    assertThat(PlanFigures.of(plan(0, 5), inputs(1, 5)).warnings())
        .anyMatch(w -> w.startsWith("No timed copies"));
    assertThat(PlanFigures.of(plan(5, 0), inputs(1, 5)).warnings())
        .anyMatch(w -> w.startsWith("Zero copies"));
    assertThat(PlanFigures.of(plan(5, 1), inputs(1, 5)).warnings())
        .anyMatch(w -> w.startsWith("Only the latest"));
  }

  @Test
  void impossiblePlansAreRefusedWithTheReason() {
    assertThatThrownBy(() -> plan(-1, 5)).hasMessageContaining("interval");
    assertThatThrownBy(() -> plan(60 * 24 * 31, 5)).hasMessageContaining("interval");
    assertThatThrownBy(() -> plan(5, 1_000_000)).hasMessageContaining("1000000");
  }

  @Test
  void exposureIsQuietOnlyWhileNoUnsavedWorkIsPlausible() {
    Instant saved = NOW.minusSeconds(600);
    assertThat(Exposure.now(NOW, saved, saved, true, false).quiet()).isTrue();
    Exposure running = Exposure.now(NOW, saved, NOW.minusSeconds(900), true, true);
    assertThat(running.programDies()).isEqualTo(Duration.ofMinutes(10));
    assertThat(running.fileLost()).isEqualTo(Duration.ofMinutes(15));
    Exposure closed = Exposure.now(NOW, saved, NOW.minusSeconds(900), false, false);
    assertThat(closed.programDies()).isZero();
    assertThat(closed.fileLost()).isEqualTo(Duration.ofMinutes(5));
    assertThat(Exposure.now(NOW, null, null, false, true).programDies()).isNull();
  }
}
