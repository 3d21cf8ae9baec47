package dev.kavrin.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;

/** Reminders come while work is plausibly unsaved, at a quiet moment, and not more often. */
class ReminderTest {
  private static final Instant NINE = Instant.parse("2031-03-03T09:00:00Z");
  private static final Duration HALF = Duration.ofMinutes(30);

  private static Instant after(int minutes) {
    return NINE.plus(Duration.ofMinutes(minutes));
  }

  @Test
  void itComesAgainEachTimeAsMuchHasPassed() {
    Reminder first = new Reminder(NINE, true, false, null, null);
    assertThat(first.isDue(HALF, after(29))).isFalse();
    assertThat(first.isDue(HALF, after(30))).isTrue();
    Reminder second = new Reminder(NINE, true, false, after(30), null);
    assertThat(second.isDue(HALF, after(59))).isFalse();
    assertThat(second.isDue(HALF, after(60))).isTrue();
    Reminder savedSince = new Reminder(after(40), true, false, after(30), null);
    assertThat(savedSince.isDue(HALF, after(69))).isFalse();
    assertThat(savedSince.isDue(HALF, after(70))).isTrue();
  }

  @Test
  void neverWithoutTheProgramMidWriteOrBeforeItWasPutOffTo() {
    assertThat(new Reminder(NINE, false, false, null, null).isDue(HALF, after(90))).isFalse();
    assertThat(new Reminder(NINE, true, true, null, null).isDue(HALF, after(90))).isFalse();
    assertThat(new Reminder(null, true, false, null, null).isDue(HALF, after(90))).isFalse();
    assertThat(new Reminder(NINE, true, false, null, null).isDue(Duration.ZERO, after(90)))
        .isFalse();
    Reminder putOff = new Reminder(NINE, true, false, null, after(50));
    assertThat(putOff.isDue(HALF, after(49))).isFalse();
    assertThat(putOff.isDue(HALF, after(50))).isTrue();
  }

  /**
   * Common practice, no source: a quarter of an hour annoys, so less than 20 min is not proposed.
   */
  @Test
  void whatIsProposedIsTheAcceptedLossButNeverUnderTwentyMinutes() {
    assertThat(Reminder.proposed(Duration.ofMinutes(5))).isEqualTo(Duration.ofMinutes(20));
    assertThat(Reminder.proposed(Duration.ofMinutes(45))).isEqualTo(Duration.ofMinutes(45));
  }
}
