package dev.kavrin.core.units;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Words that people read. */
class WordsTest {
  @Test
  void aCountKnowsItsPlural() {
    assertThat(Words.count(1, "other copy")).isEqualTo("1 other copy");
    assertThat(Words.count(2, "other copy")).isEqualTo("2 other copies");
    assertThat(Words.count(0, "day")).isEqualTo("0 days");
    assertThat(Words.count(3, "part")).isEqualTo("3 parts");
  }
}
