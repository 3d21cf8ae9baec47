package dev.kavrin.core.profile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.profile.LockText.Says;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.AlphaChars;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What lock files say by a pattern; the ways of writing them are common practice, no source. */
class LockTextTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{user}@{host}:{pid}     | mara@forge:4711                       | 4711 | forge  | mara",
        "pid {pid} on {host}     | opened, pid   77\ton anvil.example.    | 77   | anvil.example |",
        "{pid}                   | 815                                   | 815  |        |",
        "\"u\":\"{user}\"         | {\"u\":\"Ilse Brandt\",\"n\":3}         |      |        | Ilse Brandt",
        "host={host}{any}pid={pid} | host=forge;date=2031-03-04;pid=12   | 12   | forge  |",
      })
  void isReadWhereverItStands(String pattern, String content, Long pid, String host, String user) {
    assertThat(LockText.of(pattern).read(content)).contains(new Says(pid, host, user));
  }

  @Test
  void writtenInAnotherWayItTellsNothing() {
    assertThat(LockText.of("pid {pid} on {host}").read("mara@forge:4711")).isEmpty();
    assertThat(LockText.of("{pid}").read("")).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "open", "{any}", "{pid} or {pid}", "{stem}"})
  void aPatternThatTellsNothingIsRefused(String pattern) {
    assertThatThrownBy(() -> LockText.of(pattern)).isInstanceOf(IllegalArgumentException.class);
  }

  @Property
  void whatWasWrittenByAPatternIsReadByIt(
      @ForAll @AlphaChars @StringLength(min = 1, max = 12) String user,
      @ForAll @AlphaChars @StringLength(min = 1, max = 12) String host,
      @ForAll @IntRange(min = 1) int pid) {
    String written = "Held by " + user + " at " + host + " (process " + pid + ").";
    assertThat(LockText.of("Held by {user} at {host} (process {pid}).").read(written))
        .contains(new Says((long) pid, host, user));
    assertThat(LockText.of("{user}").toString()).isEqualTo("{user}");
    assertThat(LockText.of(" {user} ")).isEqualTo(LockText.of("{user}"));
  }
}
