package dev.kavrin.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.Test;

/** Who guesses waits longer each time; who is right waits no more. */
class PatienceTest {
  private final AtomicReference<Instant> now =
      new AtomicReference<>(Instant.parse("2026-10-05T08:00:00Z"));
  private final Patience patience = new Patience(3, now::get);

  private void pass(Duration time) {
    now.updateAndGet(n -> n.plus(time));
  }

  @Test
  void theFirstTriesAreFree() {
    for (int i = 0; i < 2; i++) {
      patience.wrong("ilse");
      assertThat(patience.left("ilse")).isEmpty();
    }
    patience.wrong("ilse");
    assertThat(patience.left("ilse")).contains(Duration.ofSeconds(2));
    assertThat(patience.left("tarek")).isEmpty();
  }

  @Test
  void eachWrongOneDoublesTheWaitUpToAQuarterOfAnHour() {
    Duration before = Duration.ZERO;
    for (int i = 0; i < 30; i++) {
      patience.wrong("ilse");
      Duration left = patience.left("ilse").orElse(Duration.ZERO);
      assertThat(left).isBetween(before, Patience.MOST);
      if (i >= 3 && left.compareTo(Patience.MOST) < 0) {
        assertThat(left).isEqualTo(before.multipliedBy(2));
      }
      before = left;
    }
    assertThat(before).isEqualTo(Patience.MOST);
    pass(Patience.MOST.minusSeconds(1));
    assertThat(patience.left("ilse")).contains(Duration.ofSeconds(1));
    pass(Duration.ofSeconds(1));
    assertThat(patience.left("ilse")).isEmpty();
  }

  @Test
  void aRightOneForgetsTheWrongOnes() {
    for (int i = 0; i < 5; i++) {
      patience.wrong("ilse");
    }
    patience.right("ilse");
    assertThat(patience.left("ilse")).isEmpty();
  }
}
