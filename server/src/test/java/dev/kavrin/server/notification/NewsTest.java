package dev.kavrin.server.notification;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.notification.NotificationSettings.Kind;
import dev.kavrin.server.notification.Notifier.About;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** When something is news, and what is told in one message. */
class NewsTest {
  private static final Instant NOON = Instant.parse("2031-03-04T12:00:00Z");
  private static final UUID CARRIAGE = UUID.randomUUID();
  private static final UUID WINCH = UUID.randomUUID();

  private final Round.Standing standing = new Round.Standing();

  private Round round(int minute) {
    return new Round(NOON.plus(Duration.ofMinutes(minute)), standing);
  }

  private static News reminder(UUID project, int n) {
    return new News(
        Kind.REMINDER,
        About.document(project, "/versions", UUID.randomUUID()),
        "Save part-" + n + ".glb now?",
        "It was last written 31 min ago.");
  }

  private static Watch.Status pending(int minutes, @Nullable String heldBy) {
    return new Watch.Status(
        UUID.randomUUID(),
        true,
        true,
        NOON,
        7,
        NOON.minus(Duration.ofMinutes(minutes)),
        heldBy,
        null,
        false,
        null,
        null);
  }

  @Test
  void whatStandsIsNewsOnceAndAgainWhenItComesBack() {
    for (boolean news : List.of(true, false, false)) {
      Round round = round(0);
      assertThat(round.begins("away")).isEqualTo(news);
      round.end();
    }
    round(1).end();
    assertThat(round(2).begins("away")).as("back, and gone again").isTrue();
  }

  @Test
  void whatMayPassByItselfIsNewsOnceItHasStood() {
    Duration while5 = Duration.ofMinutes(5);
    for (int minute : List.of(0, 3, 4)) {
      Round round = round(minute);
      assertThat(round.begins("fails", while5)).isFalse();
      round.end();
    }
    Round long6 = round(6);
    assertThat(long6.begins("fails", while5)).isTrue();
    assertThat(long6.begins("fails", while5)).isFalse();
    long6.end();
    round(7).end();
    assertThat(round(8).begins("fails", while5)).as("stands anew since this moment").isFalse();
  }

  @ParameterizedTest
  @CsvSource({"0,0", "1,0", "1,1", "2,1", "5,3", "6,2", "12,1", "0,3"})
  void severalOfAKindAreOneMessageThatLosesNoneAndMixesNoProjects(int carriage, int winch) {
    Round round = round(0);
    IntStream.range(0, carriage).forEach(n -> round.tell(reminder(CARRIAGE, n)));
    IntStream.range(0, winch).forEach(n -> round.tell(reminder(WINCH, n)));
    List<News> told = round.end();
    assertThat(told).hasSize(Math.min(carriage, 1) + Math.min(winch, 1));
    for (News one : told) {
      int n = one.about().projects().contains(CARRIAGE) ? carriage : winch;
      assertThat(one.about().projects()).hasSize(1);
      assertThat(one.about().documents()).hasSize(n);
      if (n == 1) {
        assertThat(one.title()).isEqualTo("Save part-0.glb now?");
      } else {
        assertThat(one.title()).isEqualTo("Save " + n + " documents now?");
        assertThat(one.about().view()).isEqualTo("/overview");
        assertThat(one.words().lines().count()).isEqualTo(Math.min(n, 6));
        assertThat(one.words().contains("And " + (n - 5) + " more.")).isEqualTo(n > 5);
      }
    }
  }

  @Test
  void aBackupIsOverdueOnlyWhereNothingInThePlanHoldsIt() {
    Plan plan = Plan.every(Duration.ofMinutes(10), Counts.newest(10), Duration.ofMinutes(30));
    int late = 10 + (int) plan.hardLimit().toMinutes() + 1;
    assertThat(OverdueNews.isOverdue(plan, pending(late, null), NOON)).isTrue();
    assertThat(OverdueNews.isOverdue(plan, pending(late - 2, null), NOON)).isFalse();
    assertThat(OverdueNews.isOverdue(plan, pending(late, "solver runs"), NOON)).isFalse();
    assertThat(LossNews.isPast(plan.accepted(), pending(31, "solver runs"), NOON)).isTrue();
    assertThat(LossNews.isPast(plan.accepted(), pending(29, "solver runs"), NOON)).isFalse();
    assertThat(LossNews.isPast(plan.accepted(), pending(31, null), NOON)).isFalse();
    assertThat(LossNews.isPast(Duration.ofMinutes(2), pending(19, "solver runs"), NOON))
        .as("a quarter of an hour annoys: common practice, no source")
        .isFalse();
  }
}
