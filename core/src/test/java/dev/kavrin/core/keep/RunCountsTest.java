package dev.kavrin.core.keep;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;

/** What holds for every history of runs, whatever the counts. */
class RunCountsTest {
  private static final Instant NOW = Instant.parse("2031-03-03T09:00:00Z");
  private static final Comparator<KeepSet> ORDER =
      Comparator.comparingLong(KeepSet::run).thenComparingLong(KeepSet::step);

  private record History(List<KeepSet> sets, List<KeepState> states) {}

  private static History history(long seed, int count) {
    Random random = new Random(seed);
    List<KeepSet> sets = new ArrayList<>();
    List<KeepState> states = new ArrayList<>();
    Set<String> known = new HashSet<>();
    long run = 1;
    long step = 0;
    String setup = "setup-0";
    int split = random.nextBoolean() ? 1 : 1 + random.nextInt(16);
    for (int n = 0; n < count; n++) {
      boolean rerun = step > 1 && random.nextInt(9) == 0;
      run += rerun ? 1 : 0;
      step = rerun ? 1 + random.nextInt((int) step) : step + 1;
      setup = random.nextInt(6) == 0 ? "setup-" + n : setup;
      List<String> restarts = several(random.nextInt(7) == 0 ? 0 : split, "restart-" + n);
      List<String> results = several(random.nextInt(3) == 0 ? 1 : 0, "result-" + n);
      boolean diverged = random.nextInt(12) == 0;
      boolean whole = !restarts.isEmpty() && !diverged && random.nextInt(8) > 0;
      Set<String> marks = random.nextInt(20) == 0 ? Set.of("pinned") : Set.of();
      sets.add(new KeepSet(run, step, setup, restarts, results, whole, diverged, marks));
      for (String id : sets.get(n).contents()) {
        if (known.add(id)) {
          Instant work = NOW.minusSeconds(60L * (count - n));
          states.add(new KeepState(id, states.size() + 1, work, 100, whole, Set.of()));
        }
      }
    }
    return new History(sets, states);
  }

  private static List<String> several(int count, String name) {
    return IntStream.range(0, count).mapToObj(part -> name + "." + part).toList();
  }

  private static KeepDecision decide(Counts counts, RunCounts runs, History history) {
    return KeepDecision.of(
        counts.rule(NOW, ZoneOffset.UTC, List.of(), runs, history.sets(), ProgramCounts.DEFAULT),
        history.states());
  }

  @Property(tries = 400)
  void theNewestWholeStepStaysWithAllItNeedsWithinAnyRoom(
      @ForAll long seed,
      @ForAll @IntRange(min = 1, max = 60) int count,
      @ForAll @IntRange(max = 9) int restarts,
      @ForAll @IntRange(max = 6) int everyResult,
      @ForAll @IntRange(max = 3000) int room) {
    History history = history(seed, count);
    Counts counts =
        new Counts(
            2, java.time.Duration.ZERO, java.time.Duration.ZERO, java.time.Duration.ZERO, 0, room);
    Map<String, String> kept =
        decide(counts, new RunCounts(restarts, everyResult, false), history).kept();
    history.sets().stream()
        .filter(KeepSet::whole)
        .max(ORDER)
        .ifPresent(s -> assertThat(kept).containsKeys(s.contents().toArray(String[]::new)));
  }

  @Property(tries = 300)
  void theLastRestartFilesInTheOrderOfTheWorkStayAndEachWithItsSetUp(
      @ForAll long seed,
      @ForAll @IntRange(min = 1, max = 60) int count,
      @ForAll @IntRange(min = 1, max = 9) int restarts) {
    History history = history(seed, count);
    RunCounts runs = new RunCounts(restarts, 2, false);
    KeepDecision decision = decide(Counts.newest(0), runs, history);
    List<KeepSet> restartable =
        history.sets().stream().filter(s -> !s.restarts().isEmpty()).sorted(ORDER).toList();
    List<KeepSet> whole = restartable.stream().filter(KeepSet::whole).toList();
    for (KeepSet set :
        Stream.concat(last(restartable, restarts).stream(), last(whole, restarts).stream())
            .toList()) {
      assertThat(decision.kept()).containsKey(set.setup());
      assertThat(decision.kept().keySet()).containsAll(set.restarts());
    }
    for (KeepSet set : history.sets()) {
      if (!set.results().isEmpty() && set.step() % 2 == 0) {
        assertThat(decision.kept()).containsKey(set.setup());
        assertThat(decision.kept().keySet()).containsAll(set.results());
      }
    }
    assertThat(decision.kept().size() + decision.dropped().size())
        .isEqualTo(history.states().size());
  }

  private static List<KeepSet> last(List<KeepSet> sets, int count) {
    return sets.subList(Math.max(0, sets.size() - count), sets.size());
  }

  @Property(tries = 200)
  void theDecisionDependsOnNoOrderAndDecidingAgainDropsNothingMore(
      @ForAll long seed, @ForAll @IntRange(min = 1, max = 40) int count) {
    History history = history(seed, count);
    RunCounts runs = new RunCounts(3, 2, false);
    KeepDecision once = decide(Counts.newest(2), runs, history);
    List<KeepSet> sets = new ArrayList<>(history.sets());
    List<KeepState> states = new ArrayList<>(history.states());
    Collections.shuffle(sets, new Random(seed));
    Collections.shuffle(states, new Random(seed + 1));
    assertThat(decide(Counts.newest(2), runs, new History(sets, states))).isEqualTo(once);
    List<KeepState> left =
        history.states().stream().filter(s -> once.kept().containsKey(s.id())).toList();
    assertThat(decide(Counts.newest(2), runs, new History(history.sets(), left)).dropped())
        .isEmpty();
  }
}
