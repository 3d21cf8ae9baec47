package dev.kavrin.core.offsite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.offsite.Coverage.Answer;
import dev.kavrin.core.offsite.Coverage.Copy;
import dev.kavrin.core.offsite.Coverage.Rule;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * The rule of three copies, two media, one of them off site: P. Krogh, The DAM Book, 2005; P.
 * Ruggiero and M. A. Heckathorn, Data Backup Options, US-CERT, 2012 (both from memory).
 */
class CoverageTest {
  private static final Instant READ = Instant.parse("2031-03-03T09:00:00Z");

  /** Disks by letter, devices nobody can tell of by digit, "S" for a store elsewhere. */
  private static Coverage of(String letters) {
    List<Copy> copies = new ArrayList<>();
    for (char letter : letters.toCharArray()) {
      copies.add(
          new Copy(
              String.valueOf(letter), !Character.isDigit(letter), letter == 'S' ? READ : null));
    }
    return Coverage.of(copies);
  }

  @ParameterizedTest
  @CsvSource({
    "ABS, YES",
    "AAS, YES",
    "AA, NO",
    "AB, NO",
    "ABC, NO",
    "AS, NO",
    "A12, NO",
    "A1S, YES",
    "SSS, NO"
  })
  void threeCopiesTwoDisksOneElsewhere(String copies, Answer answer) {
    assertThat(of(copies).meets(Rule.USUAL)).isEqualTo(answer);
  }

  @Test
  void whereNobodyCanTellTheDisksApartTheAnswerIsPerhaps() {
    assertThat(of("A1").meets(new Rule(2, 2, 0))).isEqualTo(Answer.PERHAPS);
    assertThat(of("12").meets(new Rule(2, 2, 0))).isEqualTo(Answer.PERHAPS);
    assertThat(of("11").meets(new Rule(2, 2, 0))).isEqualTo(Answer.NO);
    assertThat(of("AA").meets(new Rule(2, 2, 0))).isEqualTo(Answer.NO);
    assertThat(of("A1").lacks(new Rule(2, 2, 0))).containsExactly("1 of 2 disks for certain");
  }

  @Test
  void whatLacksIsTold() {
    assertThat(of("AA").lacks(Rule.USUAL))
        .containsExactly("2 of 3 copies", "1 of 2 disks", "none elsewhere");
    assertThat(of("ABS").lacks(Rule.USUAL)).isEmpty();
    assertThat(of("ABS").verified()).isEqualTo(READ);
    assertThat(of("AB").verified()).isNull();
  }

  @Property
  void anotherCopyNeverMakesItWorse(
      @ForAll @IntRange(max = 5) int here,
      @ForAll @IntRange(max = 3) int unknown,
      @ForAll @IntRange(max = 2) int stores) {
    String copies = "AABCD".substring(0, here) + "123".substring(0, unknown) + "S".repeat(stores);
    for (String more : List.of("A", "X", "1", "9", "S")) {
      assertThat(of(copies + more).meets(Rule.USUAL))
          .isLessThanOrEqualTo(of(copies).meets(Rule.USUAL));
    }
  }

  @Test
  void aRuleThatCannotBeMetIsRefused() {
    assertThatThrownBy(() -> new Rule(2, 3, 0)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Rule(2, 2, 3)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Rule(0, 1, 0)).isInstanceOf(IllegalArgumentException.class);
  }
}
