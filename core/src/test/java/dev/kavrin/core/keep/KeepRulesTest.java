package dev.kavrin.core.keep;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
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
            Arbitraries.integers().between(0, 8).map(KeepRules::ring),
            Arbitraries.just(KeepRules.firstAfter(List.of(NOW.minus(Duration.ofDays(9))))),
            Arbitraries.just(KeepRules.marked()),
            Arbitraries.just(KeepRule.NOTHING));
    Arbitrary<KeepRule> mixed = single.list().ofMinSize(1).ofMaxSize(4).map(KeepRules::any);
    return Combinators.combine(mixed, Arbitraries.integers().between(0, 4000))
        .as((rule, room) -> room % 2 == 0 ? rule : new RoomLimit(rule, room));
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

  private static List<KeepState> steady(int n) {
    List<KeepState> states = new ArrayList<>();
    for (int b = 1; b <= n; b++) {
      states.add(
          new KeepState(String.valueOf(b), b, NOW.plusSeconds(60L * b), 100, true, Set.of()));
    }
    return states;
  }

  /** OEIS A001511, "the ruler function", its first 16 terms (from memory). */
  @Example
  void slotsFollowTheRulerSequence() {
    assertThat(LongStream.rangeClosed(1, 16).mapToInt(KeepRules::ruler))
        .containsExactly(1, 2, 1, 3, 1, 2, 1, 4, 1, 2, 1, 3, 1, 2, 1, 5);
  }

  /** The reach of the rotation, derived: the two rarest slots alternate every 2^(N-2) births. */
  @Property(tries = 60)
  void aRingReachesBackAsFarAsItPromises(
      @ForAll @IntRange(min = 2, max = 8) int slots, @ForAll @IntRange(max = 500) int more) {
    int births = (1 << slots) + more;
    List<KeepState> held = new ArrayList<>();
    for (KeepState born : steady(births)) {
      held.add(born);
      Map<String, String> kept = KeepRules.ring(slots).keeps(held);
      held.removeIf(s -> !kept.containsKey(s.id()));
    }
    assertThat(held).hasSizeLessThanOrEqualTo(slots);
    long oldest = held.stream().mapToLong(KeepState::birth).min().orElseThrow();
    assertThat(births - oldest).isBetween(1L << (slots - 2), 3L << (slots - 2));
  }

  @Property(tries = 150)
  void theRoomLimitHoldsOrOnlyWhatMustStayIsLeft(
      @ForAll("histories") List<KeepState> states, @ForAll @IntRange(max = 5000) int room) {
    KeepDecision decision = KeepDecision.of(new RoomLimit(KeepRules.newest(50), room), states);
    List<KeepState> left =
        states.stream().filter(s -> decision.kept().containsKey(s.id())).toList();
    long used = left.stream().mapToLong(KeepState::bytes).sum();
    boolean onlyMusts =
        left.stream().filter(s -> s.marks().isEmpty()).count() <= 2
            && left.stream()
                .filter(s -> s.marks().isEmpty())
                .allMatch(s -> s.protecting() || isLast(s, left));
    assertThat(used <= room || onlyMusts).as("%d of %d", used, room).isTrue();
  }

  private static boolean isLast(KeepState state, List<KeepState> left) {
    return left.stream().noneMatch(s -> s.workTime().isAfter(state.workTime()));
  }

  /** By hand: 1, 2 and 3 minutes lie close, 9 and 20 far; what goes opens the smallest gap. */
  @Example
  void roomIsWonWhereTheGapStaysSmallest() {
    List<KeepState> states = new ArrayList<>();
    for (int minute : new int[] {1, 2, 3, 9, 20}) {
      states.add(
          new KeepState(
              "at " + minute, minute, NOW.plusSeconds(60L * minute), 100, true, Set.of()));
    }
    assertThat(KeepDecision.of(new RoomLimit(KeepRules.newest(9), 400), states).dropped())
        .containsExactly("at 1");
    assertThat(KeepDecision.of(new RoomLimit(KeepRules.newest(9), 300), states).dropped())
        .containsExactly("at 1", "at 2");
    assertThat(KeepDecision.of(new RoomLimit(KeepRules.newest(9), 0), states).kept().keySet())
        .containsExactly("at 20");
  }

  /** For one alone it comes to the same as a limit of its own. */
  @Property(tries = 150)
  void sharedRoomHoldsOrOnlyWhatMustStayIsLeft(
      @ForAll("histories") List<KeepState> one,
      @ForAll("histories") List<KeepState> other,
      @ForAll @IntRange(max = 9000) int room) {
    List<RoomShares.Share> shares = List.of(RoomShares.allOf(one), RoomShares.allOf(other));
    List<KeepState> left = new ArrayList<>();
    List<Set<String>> gone = RoomShares.beyond(shares, room);
    long musts = 0;
    for (int i = 0; i < 2; i++) {
      Set<String> going = gone.get(i);
      List<KeepState> stay =
          shares.get(i).states().stream().filter(s -> !going.contains(s.id())).toList();
      musts += stay.stream().filter(s -> !s.marks().isEmpty() || isMust(s, stay)).count();
      left.addAll(stay);
    }
    long used = left.stream().mapToLong(KeepState::bytes).sum();
    assertThat(used <= room || musts == left.size()).as("%d of %d", used, room).isTrue();

    Set<String> alone = RoomShares.beyond(List.of(RoomShares.allOf(one)), room).get(0);
    Map<String, String> kept = new RoomLimit(KeepRules.newest(1000), room).keeps(one);
    assertThat(one.stream().map(KeepState::id).filter(id -> !alone.contains(id)))
        .containsExactlyInAnyOrderElementsOf(kept.keySet());
  }

  private static boolean isMust(KeepState state, List<KeepState> left) {
    return isLast(state, left)
        || state.protecting()
            && left.stream()
                .noneMatch(s -> s.protecting() && s.workTime().isAfter(state.workTime()));
  }

  /** By hand: of 0, 10 and 20 minutes, and of 0, 1 and 30, the second one at 1 opens the least. */
  @Example
  void ofDocumentsThatShareRoomTheOneWithTheSmallestGapGives() {
    List<List<KeepState>> documents = new ArrayList<>();
    for (int[] minutes : new int[][] {{0, 10, 20}, {0, 1, 30}}) {
      documents.add(
          java.util.Arrays.stream(minutes)
              .mapToObj(
                  m -> new KeepState("at " + m, m, NOW.plusSeconds(60L * m), 100, true, Set.of()))
              .toList());
    }
    List<RoomShares.Share> shares = documents.stream().map(RoomShares::allOf).toList();
    assertThat(RoomShares.beyond(shares, 500)).containsExactly(Set.of(), Set.of("at 0"));
    assertThat(RoomShares.beyond(shares, 400)).containsExactly(Set.of("at 0"), Set.of("at 0"));
    assertThat(RoomShares.beyond(shares, 0))
        .containsExactly(Set.of("at 0", "at 10"), Set.of("at 0", "at 1"));
  }

  @Provide
  Arbitrary<List<KeepState>> mixedHistories() {
    return Combinators.combine(
            histories(), Arbitraries.of(true, false).list().ofMinSize(60).ofMaxSize(60))
        .as(
            (states, written) ->
                states.stream()
                    .map(
                        s ->
                            new KeepState(
                                s.id(),
                                s.birth(),
                                s.workTime(),
                                s.bytes(),
                                s.protecting(),
                                s.marks(),
                                written.get((int) s.birth())))
                    .toList());
  }

  /** What a program wrote aside pushes out nothing that a person saved, and the other way round. */
  @Property(tries = 150)
  void savedAndWrittenAsideDoNotPushEachOtherOut(
      @ForAll("mixedHistories") List<KeepState> states,
      @ForAll @IntRange(max = 8) int newest,
      @ForAll @IntRange(max = 8) int programs) {
    ProgramCounts own = new ProgramCounts(programs, Duration.ofDays(1));
    Counts counts = Counts.newest(newest);
    Map<String, String> kept =
        KeepDecision.of(
                counts.rule(NOW, ZONE, List.of(), RunCounts.DEFAULT, List.of(), own), states)
            .kept();
    List<KeepState> saved = states.stream().filter(s -> !s.asWritten()).toList();
    Map<String, String> alone = KeepDecision.of(counts.rule(NOW, ZONE, List.of()), saved).kept();
    assertThat(saved.stream().map(KeepState::id).filter(kept::containsKey))
        .containsExactlyInAnyOrderElementsOf(alone.keySet());
    List<KeepState> aside = states.stream().filter(KeepState::asWritten).toList();
    assertThat(aside.subList(Math.max(0, aside.size() - programs), aside.size()))
        .allMatch(s -> kept.containsKey(s.id()));
    long unmarked =
        aside.stream().filter(s -> s.marks().isEmpty() && kept.containsKey(s.id())).count();
    assertThat(unmarked).isLessThanOrEqualTo(programs + 25 + 1);
  }

  @Property(tries = 150)
  void ofEachHourTheLastStaysWhateverElseGoes(
      @ForAll("histories") List<KeepState> states, @ForAll @IntRange(min = 1, max = 48) int hours) {
    Map<String, String> kept =
        KeepRules.lastOfEachHour(Duration.ofHours(hours), NOW, ZONE).keeps(states);
    for (KeepState s : states) {
      boolean within = !s.workTime().isBefore(NOW.minus(Duration.ofHours(hours)));
      boolean another =
          states.stream()
              .anyMatch(
                  o ->
                      hour(o).equals(hour(s))
                          && (o.workTime().isAfter(s.workTime())
                              || o.workTime().equals(s.workTime()) && o.birth() > s.birth()));
      if (within) {
        assertThat(kept.containsKey(s.id())).isEqualTo(!another);
      }
    }
    assertThat(kept.size()).isLessThanOrEqualTo(hours + 1);
  }

  private static Instant hour(KeepState state) {
    return state.workTime().truncatedTo(java.time.temporal.ChronoUnit.HOURS);
  }

  @Property(tries = 80)
  void withinARoomTheNewestThatAPersonSavedStaysToo(
      @ForAll("mixedHistories") List<KeepState> states,
      @ForAll @IntRange(min = 1, max = 2000) int room) {
    Counts counts = new Counts(50, Duration.ZERO, Duration.ZERO, Duration.ZERO, 0, room);
    KeepRule rule =
        counts.rule(NOW, ZONE, List.of(), RunCounts.DEFAULT, List.of(), ProgramCounts.DEFAULT);
    Map<String, String> kept = KeepDecision.of(rule, states).kept();
    states.stream()
        .filter(s -> s.protecting() && !s.asWritten())
        .max(Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth))
        .ifPresent(s -> assertThat(kept).containsKey(s.id()));
  }
}
