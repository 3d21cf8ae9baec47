package dev.kavrin.core.keep;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

class KeepRulesTest {
  private static final Instant NOW = Instant.parse("2031-03-03T12:00:00Z");
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");

  @Provide
  Arbitrary<List<KeepState>> histories() {
    Arbitrary<Integer> minutes = Arbitraries.integers().between(0, 60 * 24 * 30);
    Arbitrary<Boolean> whole = Arbitraries.of(true, true, true, false);
    Arbitrary<Set<String>> marks = Arbitraries.of(Set.of(), Set.of(), Set.of(), Set.of("pinned"));
    return Combinators.combine(minutes, whole, marks)
        .as((m, w, k) -> new Object[] {m, w, k})
        .list()
        .ofMaxSize(60)
        .map(KeepRulesTest::numbered);
  }

  @SuppressWarnings("unchecked")
  private static List<KeepState> numbered(List<Object[]> raw) {
    List<KeepState> states = new ArrayList<>();
    for (Object[] r : raw) {
      states.add(
          new KeepState(
              "state-" + states.size(),
              states.size(),
              NOW.minus(Duration.ofMinutes((Integer) r[0])),
              100,
              (Boolean) r[1],
              (Set<String>) r[2]));
    }
    return states;
  }

  @Provide
  Arbitrary<KeepRule> rules() {
    Arbitrary<KeepRule> newest = Arbitraries.integers().between(0, 12).map(KeepRules::newest);
    Arbitrary<KeepRule> periods =
        Combinators.combine(
                Arbitraries.of(KeepRules.Period.values()), Arbitraries.integers().between(0, 20))
            .as((p, days) -> KeepRules.firstOfEach(p, Duration.ofDays(days), NOW, ZONE));
    Arbitrary<KeepRule> single =
        Arbitraries.oneOf(
            newest,
            periods,
            Arbitraries.just(KeepRules.marked()),
            Arbitraries.just(KeepRule.NOTHING));
    return single.list().ofMinSize(1).ofMaxSize(4).map(KeepRules::any);
  }

  @Property(tries = 150)
  void theNewestWholeStateIsNeverDropped(
      @ForAll("histories") List<KeepState> states, @ForAll("rules") KeepRule rule) {
    KeepDecision decision = KeepDecision.of(rule, states);
    states.stream()
        .filter(KeepState::protecting)
        .max(Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth))
        .ifPresent(s -> assertThat(decision.kept().get(s.id())).contains("protected"));
    assertThat(decision.kept().size() + decision.dropped().size()).isEqualTo(states.size());
    assertThat(decision.dropped()).noneMatch(decision.kept()::containsKey);
  }

  @Property(tries = 150)
  void decidingAgainDropsNothingMore(
      @ForAll("histories") List<KeepState> states, @ForAll("rules") KeepRule rule) {
    KeepDecision once = KeepDecision.of(rule, states);
    List<KeepState> left = states.stream().filter(s -> once.kept().containsKey(s.id())).toList();
    assertThat(KeepDecision.of(rule, left).dropped()).isEmpty();
  }

  @Property(tries = 80)
  void theOrderOfTheListDoesNotMatter(
      @ForAll("histories") List<KeepState> states,
      @ForAll("rules") KeepRule rule,
      @ForAll @IntRange(max = 1000) int seed) {
    List<KeepState> mixed = new ArrayList<>(states);
    Collections.shuffle(mixed, new Random(seed));
    assertThat(KeepDecision.of(rule, mixed)).isEqualTo(KeepDecision.of(rule, states));
  }

  @Property(tries = 100)
  void keepingZeroLeavesTheProtectedOneAlone(@ForAll("histories") List<KeepState> states) {
    KeepDecision decision = KeepDecision.of(KeepRules.newest(0), states);
    assertThat(decision.kept().size())
        .isEqualTo(states.stream().anyMatch(KeepState::protecting) ? 1 : 0);
  }

  /** Common practice, no source: keep 5 of 10 leaves the five last. */
  @Example
  void keepFiveOfTenLeavesSixToTen() {
    List<KeepState> ten = new ArrayList<>();
    for (int n = 1; n <= 10; n++) {
      ten.add(new KeepState(String.valueOf(n), n, NOW.plusSeconds(n), 1, true, Set.of()));
    }
    assertThat(KeepDecision.of(KeepRules.newest(5), ten).kept().keySet())
        .containsExactlyInAnyOrder("6", "7", "8", "9", "10");
  }
}
