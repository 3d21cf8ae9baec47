package dev.kavrin.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.compare.PartHistory.Sighting;
import dev.kavrin.core.compare.PartLife.What;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The lives of parts whose whole life is known, because it was made up. */
class PartHistoryTest {
  private static final Instant MONDAY = Instant.parse("2031-03-03T08:00:00Z");

  /** What is known to have happened: to whom, at which state. */
  private record Known(int part, int at, What what) {}

  /** A part that remembers who it is. */
  private record Thing(int who, String name, int group, int shape, double x, boolean hidden) {}

  /** A document that is worked on at random, with a record of it. */
  private static final class Work {
    final Random random;
    final List<Sighting> sightings = new ArrayList<>();
    final List<Known> known = new ArrayList<>();
    final Map<Integer, Thing> there = new TreeMap<>();
    final Map<Integer, Thing> away = new TreeMap<>();
    final Map<Integer, String> groups = new TreeMap<>();
    final Map<Thing, Part> parts = new LinkedHashMap<>();
    final boolean sameObjects;
    int made;

    Work(long seed, boolean sameObjects) {
      random = new Random(seed);
      this.sameObjects = sameObjects;
      for (int g = 0; g < 4; g++) {
        groups.put(g, "Group " + g);
      }
      for (int i = 0; i < 40; i++) {
        come(0);
      }
      see(true);
    }

    private void come(int at) {
      int who = made++;
      there.put(who, new Thing(who, "Piece " + who, who % 4, 0, who, false));
      known.add(new Known(who, at, What.FIRST));
    }

    void workOn() {
      int at = sightings.size();
      List<Integer> who = new ArrayList<>(there.keySet());
      java.util.Collections.shuffle(who, random);
      List<Integer> asleep = List.copyOf(away.keySet());
      for (int i = 0; i < 1 + random.nextInt(3) && i < who.size(); i++) {
        edit(at, there.get(who.get(i)));
      }
      if (random.nextInt(6) == 0 && !asleep.isEmpty()) {
        Thing back = away.remove(asleep.get(0));
        there.put(back.who(), back);
        known.add(new Known(back.who(), at, What.BACK));
      }
      if (random.nextInt(40) == 0) {
        come(at);
      }
      see(true);
    }

    private void edit(int at, Thing t) {
      int kind = random.nextInt(7);
      What what =
          List.of(
                  What.CHANGED,
                  What.MOVED,
                  What.RENAMED,
                  What.REPARENTED,
                  What.LOST,
                  What.HIDDEN,
                  What.CHANGED)
              .get(kind);
      Thing after =
          switch (what) {
            case MOVED -> new Thing(t.who(), t.name(), t.group(), t.shape(), t.x() + 1, t.hidden());
            case RENAMED ->
                new Thing(
                    t.who(),
                    "Piece " + t.who() + "." + at,
                    t.group(),
                    t.shape(),
                    t.x(),
                    t.hidden());
            case REPARENTED ->
                new Thing(t.who(), t.name(), (t.group() + 1) % 4, t.shape(), t.x(), t.hidden());
            case HIDDEN -> new Thing(t.who(), t.name(), t.group(), t.shape(), t.x(), !t.hidden());
            default -> new Thing(t.who(), t.name(), t.group(), t.shape() + 1, t.x(), t.hidden());
          };
      if (what == What.LOST) {
        there.remove(t.who());
        away.put(t.who(), t);
      } else {
        there.put(t.who(), after);
      }
      known.add(new Known(t.who(), at, what == What.HIDDEN && t.hidden() ? What.SHOWN : what));
    }

    /** A state that cannot be read, or only a third of it. */
    void spoil() {
      if (random.nextBoolean()) {
        sightings.add(sighting(null, false));
      } else {
        see(false);
      }
    }

    private void see(boolean whole) {
      List<Part> all = new ArrayList<>();
      groups.forEach(
          (g, name) ->
              all.add(new Part(name, null, name, "group", Map.of(), null, null, "p", null, true)));
      for (Thing t : there.values()) {
        if (whole || t.who() % 3 == 0) {
          all.add(sameObjects ? parts.computeIfAbsent(t, this::part) : part(t));
        }
      }
      sightings.add(sighting(Inventory.of("glb", all, List.of()), whole));
    }

    private Sighting sighting(Inventory inventory, boolean whole) {
      int at = sightings.size();
      return new Sighting("state " + at, MONDAY.plusSeconds(600L * at), inventory, whole);
    }

    private Part part(Thing t) {
      double size = Math.pow(1.7, t.who()) * (1 + 0.001 * t.shape());
      return new Part(
          groups.get(t.group()) + "/" + t.name(),
          groups.get(t.group()),
          t.name(),
          "mesh",
          Map.of(
              "area", new Measure(size, "m²"),
              "extent", new Measure(size, "m"),
              "hidden", new Measure(t.hidden() ? 1 : 0, "")),
          new Box(new double[] {t.x(), 0, 0}, new double[] {t.x() + 1, 1, 1}),
          "exact " + t.who() + "." + t.shape(),
          "at " + t.x(),
          "surface",
          true);
    }
  }

  private static List<Known> told(PartHistory history) {
    return history.lives().stream()
        .filter(l -> l.kind().equals("mesh"))
        .flatMap(l -> l.events().stream().map(e -> new Known(who(l), e.at(), e.what())))
        .toList();
  }

  private static int who(PartLife life) {
    return Integer.parseInt(life.last().exact().split("[ .]")[1]);
  }

  @ParameterizedTest
  @CsvSource({"7,true", "8,true", "9,false"})
  void everyEventIsFoundAndNoneInvented(long seed, boolean sameObjects) {
    Work work = new Work(seed, sameObjects);
    int states = Boolean.getBoolean("kavrin.full") || sameObjects ? 1_000 : 200;
    while (work.sightings.size() < states) {
      work.workOn();
    }
    PartHistory history = PartHistory.of(work.sightings);
    assertThat(told(history)).containsExactlyInAnyOrderElementsOf(work.known);
    assertThat(history.gone(0).stream().map(PartLife::last).map(p -> p.exact().split("[ .]")[1]))
        .containsExactlyElementsOf(
            work.away.keySet().stream().sorted((a, b) -> b - a).map(String::valueOf).toList());
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void whatCannotBeReadIsNotGone(long seed) {
    Work work = new Work(seed, true);
    Random random = new Random(seed);
    while (work.sightings.size() < 300) {
      if (random.nextInt(4) == 0) {
        work.spoil();
      } else {
        work.workOn();
      }
    }
    assertThat(told(PartHistory.of(work.sightings)))
        .containsExactlyInAnyOrderElementsOf(work.known);
  }

  @ParameterizedTest
  @ValueSource(longs = {4, 5})
  void aRenamedGroupDoesNotMoveWhatIsInIt(long seed) {
    Work work = new Work(seed, false);
    work.groups.put(2, "Bogies");
    work.see(true);
    PartHistory history = PartHistory.of(work.sightings);
    assertThat(told(history)).containsExactlyInAnyOrderElementsOf(work.known);
    assertThat(history.lives().stream().filter(l -> l.kind().equals("group")).map(PartLife::label))
        .containsExactly("Group 0", "Group 1", "Bogies", "Group 3");
  }

  @ParameterizedTest
  @ValueSource(longs = {6})
  void stretchesCoverExactlyTheStatesThatHaveIt(long seed) {
    Work work = new Work(seed, true);
    while (work.sightings.size() < 400) {
      work.workOn();
    }
    for (PartLife life : PartHistory.of(work.sightings).lives()) {
      if (life.kind().equals("group")) {
        continue;
      }
      int who = who(life);
      List<Integer> has =
          IntStream.range(0, work.sightings.size())
              .filter(
                  at ->
                      work.sightings.get(at).inventory().parts().stream()
                          .anyMatch(
                              p -> p.exact() != null && p.exact().startsWith("exact " + who + ".")))
              .boxed()
              .toList();
      assertThat(
              life.stretches().stream()
                  .flatMap(s -> IntStream.rangeClosed(s.from(), s.to()).boxed()))
          .isEqualTo(has);
    }
  }
}
