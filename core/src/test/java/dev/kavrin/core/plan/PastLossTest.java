package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import dev.kavrin.core.plan.PastLoss.Survivor;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** What would have been lost, against the formula, and against asking every second. */
class PastLossTest {
  private static final Instant BASE = Instant.parse("2031-03-03T09:00:00Z");

  private static Instant at(long second) {
    return BASE.plusSeconds(second);
  }

  private static Worked worked(long from, long to) {
    return new Worked(List.of(new Worked.Sitting(at(from), at(to))));
  }

  private static double seconds(Duration duration) {
    return duration.toMillis() / 1000.0;
  }

  /** D. R. Cox, Renewal Theory, 1962 (from memory): mean residual life Σg²/(2Σg), worst max g. */
  @Property(tries = 200)
  void instantCopiesLoseTheResidualLife(
      @ForAll @Size(min = 1, max = 60) List<@IntRange(min = 1, max = 3600) Integer> gaps) {
    List<Survivor> survivors = new ArrayList<>(List.of(Survivor.at(BASE)));
    long end = 0;
    double squares = 0;
    for (int gap : gaps) {
      end += gap;
      squares += (double) gap * gap;
      survivors.add(Survivor.at(at(end)));
    }
    Collections.shuffle(survivors, new Random(end));
    PastLoss loss = PastLoss.of(worked(0, end), survivors).orElseThrow();
    assertThat(seconds(loss.mean())).isCloseTo(squares / (2.0 * end), within(0.002));
    assertThat(loss.worst()).isEqualTo(Duration.ofSeconds(Collections.max(gaps)));
    assertThat(loss.over()).isEqualTo(Duration.ofSeconds(end));
  }

  /** The general form: survivor i holds the work up to hᵢ and is there from aᵢ on. */
  @Property(tries = 200)
  void copiesThatTakeTimeLoseThatToo(
      @ForAll @Size(min = 2, max = 40) List<@IntRange(min = 60, max = 3600) Integer> gaps,
      @ForAll @IntRange(max = 59) int takes) {
    List<Survivor> survivors = new ArrayList<>();
    long held = 0;
    double area = 0;
    double worst = 0;
    for (int i = 0; i < gaps.size(); i++) {
      survivors.add(new Survivor(at(held), at(held + takes), null));
      double next = gaps.get(i) + takes;
      area += i + 1 < gaps.size() ? (next * next - (double) takes * takes) / 2 : 0;
      worst = i + 1 < gaps.size() ? Math.max(worst, next) : worst;
      held += i + 1 < gaps.size() ? gaps.get(i) : 0;
    }
    PastLoss loss = PastLoss.of(worked(0, held + takes), survivors).orElseThrow();
    assertThat(seconds(loss.mean())).isCloseTo(area / held, within(0.002));
    assertThat(seconds(loss.worst())).isEqualTo(worst);
  }

  /** Random sittings, survivors that come and go: asked at the middle of every second. */
  @Property(tries = 100)
  void everySecondAskedComesToTheSame(@ForAll long seed) {
    Random random = new Random(seed);
    List<Worked.Sitting> sittings = new ArrayList<>();
    long time = 0;
    for (int i = 0; i < 1 + random.nextInt(4); i++) {
      long from = time + random.nextInt(200);
      time = from + 1 + random.nextInt(400);
      sittings.add(new Worked.Sitting(at(from), at(time)));
    }
    Worked worked = new Worked(sittings);
    List<Survivor> survivors = new ArrayList<>();
    for (int i = 0; i < 1 + random.nextInt(12); i++) {
      long holds = random.nextInt((int) time);
      long from = holds + random.nextInt(30);
      Instant until = random.nextInt(3) == 0 ? at(from + 1 + random.nextInt(200)) : null;
      survivors.add(new Survivor(at(holds), at(from), until));
    }
    Instant first = survivors.stream().map(Survivor::from).min(Instant::compareTo).orElseThrow();
    List<Double> losses = new ArrayList<>();
    for (Worked.Sitting sitting : sittings) {
      for (Instant t = sitting.from().plusMillis(500);
          t.isBefore(sitting.to());
          t = t.plusSeconds(1)) {
        Instant now = t;
        if (!t.isBefore(first)) {
          Instant newest =
              survivors.stream()
                  .filter(s -> !s.from().isAfter(now))
                  .filter(s -> s.until() == null || s.until().isAfter(now))
                  .map(Survivor::holds)
                  .max(Instant::compareTo)
                  .orElse(first);
          losses.add(seconds(worked.between(newest, now)));
        }
      }
    }
    PastLoss loss = PastLoss.of(worked, survivors).orElse(null);
    assertThat(loss == null).isEqualTo(losses.isEmpty());
    if (loss != null) {
      Collections.sort(losses);
      assertThat(seconds(loss.mean()))
          .isCloseTo(losses.stream().mapToDouble(d -> d).average().orElseThrow(), within(0.001));
      assertThat(seconds(loss.worst())).isCloseTo(losses.get(losses.size() - 1), within(0.501));
      double most = seconds(loss.most());
      double slack = 1.0 / losses.size();
      assertThat(share(losses, most + 0.501)).isGreaterThanOrEqualTo(0.95 - slack);
      assertThat(share(losses, most - 0.501)).isLessThanOrEqualTo(0.95 + slack);
      assertThat(loss.over()).isEqualTo(Duration.ofSeconds(losses.size()));
    }
  }

  private static double share(List<Double> losses, double limit) {
    return (double) losses.stream().filter(l -> l <= limit).count() / losses.size();
  }

  @Test
  void nothingIsSaidWhereNothingSurvivedOrNobodyWorked() {
    assertThat(PastLoss.of(worked(0, 60), List.of())).isEmpty();
    assertThat(PastLoss.of(new Worked(List.of()), List.of(Survivor.at(BASE)))).isEmpty();
  }
}
