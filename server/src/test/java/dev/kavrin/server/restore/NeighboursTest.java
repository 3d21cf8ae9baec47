package dev.kavrin.server.restore;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.function.Function;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

class NeighboursTest {
  private static final Instant MOMENT = Instant.parse("2031-03-03T04:05:00Z");
  private static final Function<Instant, Instant> ITSELF = Function.identity();

  /** A night lies before the moment, a busy morning after it. */
  @Test
  void theChosenOneIsThereThoughManyLieNearer() {
    Instant before = MOMENT.minusSeconds(30_000);
    List<Instant> all =
        Stream.concat(
                Stream.iterate(MOMENT.plusSeconds(60), t -> t.plusSeconds(600)).limit(20),
                Stream.of(before))
            .toList();
    assertThat(Neighbours.of(all, before, MOMENT, ITSELF, 12))
        .hasSize(12)
        .endsWith(before)
        .startsWith(MOMENT.plusSeconds(60 + 10 * 600));
  }

  @Test
  void newestFirstAndNoneLeftOutThatIsNearerThanOneShown() {
    for (int seed = 0; seed < 200; seed++) {
      Random random = new Random(seed);
      List<Instant> all =
          random
              .longs(random.nextInt(40), -100_000, 100_000)
              .distinct()
              .mapToObj(MOMENT::plusSeconds)
              .toList();
      Instant chosen = all.isEmpty() ? null : all.get(random.nextInt(all.size()));
      List<Instant> shown = Neighbours.of(all, chosen, MOMENT, ITSELF, 12);
      assertThat(shown)
          .as("seed %d", seed)
          .hasSize(Math.min(12, all.size()))
          .isSortedAccordingTo(Comparator.reverseOrder());
      if (chosen != null) {
        assertThat(shown).contains(chosen);
      }
      long farthest =
          shown.stream()
              .filter(t -> !t.equals(chosen))
              .mapToLong(NeighboursTest::far)
              .max()
              .orElse(0);
      assertThat(all.stream().filter(t -> !shown.contains(t)))
          .as("seed %d", seed)
          .allMatch(t -> far(t) >= farthest);
    }
  }

  private static long far(Instant at) {
    return Math.abs(at.getEpochSecond() - MOMENT.getEpochSecond());
  }
}
