package dev.kavrin.core.keep;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;

class ProgramCountsTest {
  private static final Instant NOW = Instant.parse("2031-03-03T12:00:00Z");

  /** One copy every so many minutes, the last just now. */
  private static List<KeepState> every(int minutes, int count) {
    return IntStream.range(0, count)
        .mapToObj(
            n ->
                new KeepState(
                    "s" + n,
                    n,
                    NOW.minus(Duration.ofMinutes((long) minutes * (count - 1 - n))),
                    100,
                    true,
                    Set.of(),
                    true))
        .toList();
  }

  private static Map<String, String> kept(ProgramCounts counts, List<KeepState> states) {
    return counts.beside(KeepRule.NOTHING, NOW, ZoneOffset.UTC).keeps(states);
  }

  /** The last 6 and one an hour for a day, a copy every 5 minutes: what a worked day leaves. */
  @Example
  void aDayOfCopiesEveryFiveMinutesLeavesSixAndOneAnHour() {
    Map<String, String> kept = kept(ProgramCounts.DEFAULT, every(5, 24 * 12));
    assertThat(kept).containsKeys("s287", "s286", "s285", "s284", "s283", "s282");
    assertThat(kept.values().stream().filter(why -> why.contains("last of the hour")))
        .hasSizeBetween(24, 25);
    assertThat(kept).hasSizeLessThanOrEqualTo(6 + 24 + 1);
  }

  @Property(tries = 100)
  void neverMoreThanTheCountsSayAndNoneWhenOff(
      @ForAll @IntRange(max = 20) int newest,
      @ForAll @IntRange(max = 48) int hours,
      @ForAll @IntRange(min = 1, max = 90) int minutes,
      @ForAll @IntRange(max = 300) int count) {
    ProgramCounts counts = new ProgramCounts(newest, Duration.ofHours(hours));
    Map<String, String> kept = kept(counts, every(minutes, count));
    assertThat(kept).hasSizeLessThanOrEqualTo(newest + hours + 1);
    assertThat(counts.on()).isEqualTo(newest > 0 || hours > 0);
    if (!counts.on()) {
      assertThat(kept).isEmpty();
    }
  }

  @Example
  void whatIsOutOfReasonIsRefusedInWords() {
    assertThatThrownBy(() -> new ProgramCounts(-1, Duration.ZERO)).hasMessageContaining("-1");
    assertThatThrownBy(() -> new ProgramCounts(1001, Duration.ZERO)).hasMessageContaining("1000");
    assertThatThrownBy(() -> new ProgramCounts(1, Duration.ofDays(31)))
        .hasMessageContaining("744 is not within 0 to 720");
  }
}
