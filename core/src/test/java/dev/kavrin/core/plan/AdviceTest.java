package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.keep.RunCounts;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** Advice against published formulas, tables and independent computation. */
class AdviceTest {
  /** The least of any function of one valley, found without its derivative. */
  private static double leastBySearch(Waste waste) {
    double a = Math.log(1e-3);
    double b = Math.log(100 * waste.between());
    double ratio = (Math.sqrt(5) - 1) / 2;
    while (b - a > 1e-10) {
      double left = b - ratio * (b - a);
      double right = a + ratio * (b - a);
      if (waste.at(Math.exp(left)) < waste.at(Math.exp(right))) {
        b = right;
      } else {
        a = left;
      }
    }
    return Math.exp((a + b) / 2);
  }

  /**
   * J. W. Young, CACM 17(9), 1974, and J. T. Daly, FGCS 22(3), 2006: a checkpoint of 300 s, a crash
   * a day. Values from memory, checked against the numerical minimum of the exact model.
   */
  @Test
  void youngAndDalyAndTheExactMinimumAgreeForADay() {
    Waste day = new Waste(300, 86_400);
    assertThat(day.young()).isCloseTo(7200.00, within(0.005));
    assertThat(day.daly()).isCloseTo(7001.39, within(0.005));
    assertThat(day.best()).isCloseTo(7001.40, within(0.005));
  }

  @Property(tries = 300)
  void theBestIntervalIsTheOneThatASearchFinds(
      @ForAll @DoubleRange(min = 0.01, max = 3600) double price,
      @ForAll @DoubleRange(min = 60, max = 1e7) double between) {
    Waste waste = new Waste(price, between);
    double best = waste.best();
    assertThat(waste.at(best))
        .isLessThanOrEqualTo(waste.at(leastBySearch(waste)) * (1 + 1e-9) + 1e-12);
    double[] band = waste.within(0.05);
    assertThat(waste.at(band[0])).isLessThanOrEqualTo(waste.at(best) * 1.05 + 1e-9);
    assertThat(waste.at(band[1])).isLessThanOrEqualTo(waste.at(best) * 1.05 + 1e-9);
    assertThat(waste.at(band[0] * 0.98)).isGreaterThan(waste.at(best) * 1.05 - 1e-9);
  }

  /** In the limit of a cheap copy Young, Daly and the exact minimum are one. */
  @Property(tries = 100)
  void theFormulasMeetWhereCopiesAreCheap(
      @ForAll @DoubleRange(min = 1e4, max = 1e7) double between) {
    Waste cheap = new Waste(between * 1e-7, between);
    assertThat(cheap.best() / cheap.young()).isCloseTo(1, within(1e-3));
    assertThat(cheap.best() / cheap.daly()).isCloseTo(1, within(1e-6));
  }

  /**
   * NIST/SEMATECH e-Handbook of Statistical Methods, 8.4.5.1, table of factors for the mean time
   * between failures at 95 %, by number of failures (from memory).
   */
  @Test
  void theIntervalIsThatOfTheHandbooksTable() {
    Map<Integer, double[]> factors =
        Map.of(
            1, new double[] {0.1795, 39.4978},
            2, new double[] {0.2768, 8.2573},
            3, new double[] {0.3422, 4.8491},
            5, new double[] {0.4285, 3.0798},
            10, new double[] {0.5438, 2.0853});
    factors.forEach(
        (n, factor) -> {
          CrashRate rate = CrashRate.of(n, Duration.ofHours(1000));
          double every = rate.every().toMillis();
          assertThat(rate.from().toMillis() / every).isCloseTo(factor[0], within(0.0002));
          assertThat(rate.to().toMillis() / every).isCloseTo(factor[1], within(0.0005));
        });
  }

  /** P(χ² with 2n + 2 degrees above 2λ) is P(Poisson of λ at most n): summed up by hand. */
  @Property(tries = 100)
  void theLowerEndIsWhereSoManyCrashesWouldBeRare(
      @ForAll @IntRange(min = 0, max = 200) int crashes) {
    Duration worked = Duration.ofHours(500);
    double expected = (double) worked.toMillis() / CrashRate.of(crashes, worked).from().toMillis();
    double term = Math.exp(-expected);
    double sum = term;
    for (int i = 1; i <= crashes; i++) {
      term *= expected / i;
      sum += term;
    }
    assertThat(sum).isCloseTo(0.025, within(1e-4));
  }

  @Test
  void withoutACrashOnlyTheLowerEndIsKnown() {
    CrashRate none = CrashRate.of(0, Duration.ofHours(30));
    assertThat(none.isKnown()).isFalse();
    assertThat(none.to()).isNull();
    assertThat(none.from()).isBetween(Duration.ofHours(8), Duration.ofMinutes(489));
    assertThat(CrashRate.of(0, Duration.ZERO).from()).isNull();
    assertThat(none.orSaid(Duration.ofHours(9)).every()).isEqualTo(Duration.ofHours(9));
  }

  /** The mean loss of a crash that comes at a constant rate and falls within an interval. */
  @Property(tries = 20)
  void theExpectedLossIsWhatASimulationLoses(
      @ForAll @DoubleRange(min = 0.1, max = 5) double interval, @ForAll long seed) {
    Random random = new Random(seed);
    double sum = 0;
    int hits = 0;
    for (int i = 0; i < 400_000; i++) {
      double crash = -Math.log(1 - random.nextDouble());
      if (crash < interval) {
        sum += crash;
        hits++;
      }
    }
    double lost = new Waste(0, 1).lostPerCrash(interval);
    assertThat(sum / hits).isCloseTo(lost, within(0.03 * lost));
  }

  private static PlanInputs inputs(Duration writes, Duration copy) {
    return new PlanInputs(
        40_000_000,
        OwnWrites.setTo(writes),
        copy == null ? null : new ProgramStall(copy, 3),
        copy,
        1,
        1,
        Map.of(),
        null);
  }

  private static Plan every(int minutes, int newest, int accepted) {
    return Plan.every(
        Duration.ofMinutes(minutes), Counts.newest(newest), Duration.ofMinutes(accepted));
  }

  /** What holds the person up is the program's autosave; its interval lies within the band. */
  @Test
  void theProgramsOwnIntervalIsWeighedByItsMeasuredStall() {
    CrashRate rate = CrashRate.of(6, Duration.ofHours(31));
    PlanInputs in = inputs(Duration.ofMinutes(30), Duration.ofMillis(3400));
    Advice advice = Advice.ofProgram(in, rate, Reckoning.MEASURED);
    assertThat(advice.best()).isBetween(advice.from(), advice.to());
    assertThat(advice.present().interval()).isEqualTo(Duration.ofMinutes(30));
    assertThat(advice.why().filled()).contains("first to the last byte of 3 autosaves");
    assertThat(advice.proposal()).as("Kavrin does not set it").isNull();
    PlanInputs unmeasured =
        new PlanInputs(1, in.own(), null, Duration.ofSeconds(9), 1, 1, Map.of(), null);
    assertThat(Advice.ofProgram(unmeasured, rate, Reckoning.MEASURED).curve())
        .as("the time of a backup in the background is no stall")
        .isEmpty();
  }

  /** Source of the bound: by definition of the cadence; the loss is that of the plan's figures. */
  @Property(tries = 200)
  void theLongestIntervalKeepsTheLossWithinWhatIsAccepted(
      @ForAll @IntRange(min = 1, max = 120) int minutes,
      @ForAll @IntRange(min = 1, max = 200) int accepted,
      @ForAll @IntRange(min = 1, max = 20) int writes) {
    PlanInputs in = inputs(Duration.ofMinutes(writes), Duration.ofSeconds(8));
    Plan plan = every(minutes, 10, accepted);
    Spacing spacing = Spacing.of(plan, in);
    Duration most = Duration.ofMinutes(accepted);
    if (spacing.longest() != null) {
      assertThat(PlanFigures.of(plan.every(spacing.longest()), in).fileLost()).isEqualTo(most);
    }
    if (spacing.told() != null) {
      assertThat(spacing.told()).startsWith("No interval holds you");
      assertThat(PlanFigures.of(plan.every(Duration.ofSeconds(30)), in).fileLost())
          .isGreaterThan(most);
    } else if (spacing.proposal() == null) {
      assertThat(PlanFigures.of(plan, in).fileLost()).isLessThanOrEqualTo(most);
    } else {
      Plan better = spacing.proposal().plan();
      assertThat(PlanFigures.of(better, in).fileLost()).isLessThanOrEqualTo(most);
      assertThat(better.keep().newest() * better.interval().toSeconds())
          .as("reaches as far back")
          .isGreaterThanOrEqualTo(10 * 60L * minutes);
      assertThat(Spacing.of(better, in).proposal()).isNull();
    }
  }

  @Test
  void shorterLosesLessAndWritesMore() {
    Spacing spacing =
        Spacing.of(every(30, 24, 60), inputs(Duration.ofMinutes(5), Duration.ofSeconds(9)));
    assertThat(spacing.points())
        .isSortedAccordingTo((a, b) -> a.worst().compareTo(b.worst()))
        .isSortedAccordingTo((a, b) -> Long.compare(b.bytesPerHour(), a.bytesPerHour()))
        .allMatch(p -> p.usual().compareTo(p.worst()) < 0);
    assertThat(spacing.points().get(0).busy()).isCloseTo(9.0 / 30, within(1e-9));
    assertThat(Spacing.of(every(30, 24, 60), inputs(null, null)).points()).isEmpty();
  }

  @Test
  void gapsThatWereSeenOutweighTheSetting() {
    Instant nine = Instant.parse("2031-03-03T09:00:00Z");
    List<Instant> idle =
        Stream.of(0, 5, 10, 31, 36, 60, 65).map(m -> nine.plusSeconds(60L * m)).toList();
    Worked worked = Worked.of(idle, Duration.ZERO);
    Duration five = Duration.ofMinutes(5);
    OwnWrites seen = OwnWrites.of(five, worked, idle).orElseThrow();
    assertThat(seen.apart()).isEqualTo(Duration.ofMinutes(24));
    assertThat(seen.words()).isEqualTo("24 min (95 % of 6 gaps seen; its setting says 5 min)");
    assertThat(OwnWrites.of(five, worked, idle.subList(0, 3)).orElseThrow().apart())
        .isEqualTo(five);
    assertThat(OwnWrites.of(null, worked, List.of())).isEmpty();
  }

  @Test
  void whatAPersonSaysStandsForWhatNothingTells() {
    PlanInputs none = inputs(null, null);
    CrashRate unseen = CrashRate.of(0, Duration.ZERO);
    Advice unknown = Advice.ofProgram(none, unseen, Reckoning.MEASURED);
    assertThat(unknown.curve()).isEmpty();
    assertThat(unknown.why().filled()).contains("no crash was seen yet").contains("no autosave");
    Advice said =
        Advice.ofProgram(
            none, unseen, new Reckoning(Duration.ofSeconds(300), Duration.ofHours(24)));
    assertThat(said.best()).isCloseTo(Duration.ofMillis(7_001_400), Duration.ofMillis(5));
    assertThat(said.curve())
        .hasSize(61)
        .isSortedAccordingTo((a, b) -> a.interval().compareTo(b.interval()));
    assertThatThrownBy(() -> new Reckoning(Duration.ofHours(5), null))
        .hasMessageContaining("14400");
  }

  @Test
  void pausesAreNoWork() {
    Instant nine = Instant.parse("2031-03-03T09:00:00Z");
    Worked worked =
        Worked.of(
            List.of(
                nine.plusSeconds(8 * 3600),
                nine,
                nine.plusSeconds(2400),
                nine.plusSeconds(4800),
                nine.plusSeconds(9 * 3600)),
            Duration.ZERO);
    assertThat(worked.total()).isEqualTo(Duration.ofSeconds(4800));
    assertThat(worked.between(nine.plusSeconds(4000), nine.plusSeconds(30_000)))
        .isEqualTo(Duration.ofSeconds(800));
    assertThat(
            worked
                .within(List.of(new Worked.Sitting(nine.plusSeconds(60), nine.plusSeconds(120))))
                .total())
        .isEqualTo(Duration.ofMinutes(1));
  }

  /** Common practice, no source: every 1 step, keep 5, run 10 leaves the steps 6 to 10. */
  @Test
  void aRunIsReplayedByItsSteps() {
    UUID run = new UUID(3, 3);
    Instant begin = Instant.parse("2031-03-03T20:00:00Z");
    List<Activity.Write> steps = new ArrayList<>();
    for (int i = 1; i <= 10; i++) {
      steps.add(new Activity.Write(begin.plusSeconds(600L * i), 1000));
    }
    Instant died = begin.plusSeconds(6200);
    Activity night =
        new Activity(
            Map.of(run, steps),
            List.of(new Activity.Crash(died, died, List.of(run))),
            List.of(),
            Worked.of(
                Stream.concat(steps.stream().map(Activity.Write::at), Stream.of(died)).toList(),
                Duration.ZERO),
            ZoneId.of("UTC"),
            new Activity.Looks(begin, Duration.ofSeconds(1), died.plusSeconds(10)),
            Set.of(run));
    Plan none = every(30, 3, 30).every(Duration.ZERO);
    Replay each = Replay.of(none.onSteps(1, new RunCounts(5, 1, false)), night, 1);
    assertThat(each.kept().get(run))
        .extracting(KeepState::birth)
        .containsExactly(6L, 7L, 8L, 9L, 10L);
    assertThat(each.lost()).isEqualTo(Duration.ofSeconds(200));
    Replay fourth = Replay.of(none.onSteps(4, new RunCounts(5, 1, false)), night, 1);
    assertThat(fourth.copies()).isEqualTo(2);
    assertThat(fourth.lost()).isEqualTo(Duration.ofSeconds(1400));
  }

  /** As many steps as lie in the least waste; as many restart files as reach as far back. */
  @Test
  void runsAreAdvisedInSteps() {
    PlanInputs in = new PlanInputs(1000, null, null, Duration.ofSeconds(300), 1, 1, Map.of(), null);
    RunInputs run = new RunInputs(Duration.ofMinutes(10), 1000, 2000, 200, 1, 1);
    CrashRate rate = CrashRate.of(10, Duration.ofHours(240)).orSaid(Duration.ofHours(24));
    Plan plan = every(30, 3, 240).every(Duration.ZERO).onSteps(2, new RunCounts(12, 1, false));
    Advice advice = Advice.ofRun(plan, in, run, rate, Reckoning.MEASURED);
    assertThat(advice.best()).isBetween(Duration.ofSeconds(6999), Duration.ofSeconds(7003));
    assertThat(advice.proposal().plan().everySteps()).isEqualTo(12);
    assertThat(advice.proposal().plan().runs().restarts()).isEqualTo(2);
    assertThat(advice.proposal().changes()).contains("steps between copies: 2 → 12");
    Plan hasty = plan.onSteps(20, new RunCounts(3, 1, false));
    assertThat(
            Advice.ofRun(
                    hasty,
                    in,
                    new RunInputs(Duration.ofMinutes(200), 1, 1, 9, 1, 1),
                    rate,
                    Reckoning.MEASURED)
                .proposal()
                .plan()
                .everySteps())
        .isEqualTo(1);
  }
}
