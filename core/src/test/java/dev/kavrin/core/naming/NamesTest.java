package dev.kavrin.core.naming;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

class NamesTest {
  @Example
  void whatStandsBehindTheLastDotMayBeFarTooLongForAnEnding() {
    String odd = "a." + "b".repeat(225);
    String written =
        BackupName.of(odd, 7, OffsetDateTime.parse("2031-03-03T14:20:08+02:00")).written();
    assertThat(written.getBytes(StandardCharsets.UTF_8).length).isLessThanOrEqualTo(255);
    assertThat(BackupName.parse(written)).get().extracting(BackupName::sequence).isEqualTo(7L);
  }

  @Example
  void namesAreMeasuredInBytesNotInCharacters() {
    for (String stem : List.of("雪".repeat(65), "雪".repeat(82), "ä".repeat(120), "x".repeat(251))) {
      FileName aside = FileName.of(stem + ".glb").withSuffix("-aside-2031-03-03T142008");
      assertThat(aside.written().getBytes(StandardCharsets.UTF_8).length)
          .as(stem)
          .isLessThanOrEqualTo(255);
      assertThat(aside.written()).endsWith("-aside-2031-03-03T142008.glb");
      assertThat(
              FileName.prefixed("0".repeat(37), Path.of(stem + ".glb"))
                  .getBytes(StandardCharsets.UTF_8))
          .hasSizeLessThanOrEqualTo(255);
    }
  }

  @Provide
  Arbitrary<String> patterns() {
    return Arbitraries.of(
        "{stem}.{ext}.bak",
        "{stem}~{n}.tmp",
        "{stem}.{time}.{ext}",
        "{stem}-{step}.{ext}",
        ".~{stem}.{ext}",
        "#{stem}.{ext}#",
        "{stem}_{n}_{time}.{ext}",
        "{stem}.{n}.{step}.{ext}");
  }

  @Provide
  Arbitrary<NameFields> fields() {
    Arbitrary<String> stems =
        Arbitraries.strings()
            .withCharRange('a', 'z')
            .withChars('ä', '雪', ' ', '-')
            .ofMinLength(1)
            .ofMaxLength(20);
    Arbitrary<String> endings = Arbitraries.strings().alpha().ofMinLength(1).ofMaxLength(5);
    Arbitrary<Long> numbers = Arbitraries.longs().between(0, 999_999);
    Arbitrary<LocalDateTime> times =
        Arbitraries.longs()
            .between(0, 4_000_000_000L)
            .map(s -> LocalDateTime.ofEpochSecond(s, 0, ZoneOffset.UTC));
    return Combinators.combine(stems, endings, numbers, numbers, times)
        .as(
            (stem, ext, n, step, time) ->
                NameFields.of(stem, ext).withNumber(n, 6).withStep(step, 6).withTime(time));
  }

  @Property(tries = 500)
  void formatThenParseIsIdentity(@ForAll("patterns") String text, @ForAll("fields") NameFields f) {
    NamePattern pattern = NamePattern.of(text);
    String name = pattern.format(f);
    NameFields back = pattern.parse(name).orElseThrow();

    assertThat(pattern.format(back)).isEqualTo(name);
    assertThat(back.stem()).isEqualTo(f.stem());
    if (text.contains("{n}")) {
      assertThat(back.number()).isEqualTo(f.number());
    }
    if (text.contains("{time}")) {
      assertThat(back.time()).isEqualTo(f.time());
    }
  }

  @Property(tries = 300)
  void captureNamesSortByBirthAndFitTheFileSystem(
      @ForAll("fields") NameFields f, @ForAll @IntRange(min = 1, max = 999_998) int sequence) {
    OffsetDateTime time = f.time().atOffset(ZoneOffset.ofHours(2));
    String longName = f.stem().repeat(40) + "." + f.ext();
    String name = BackupName.of(longName, sequence, time).written();
    String next = BackupName.of(longName, sequence + 1L, time.minusDays(3)).written();

    assertThat(name.getBytes(StandardCharsets.UTF_8).length).isLessThanOrEqualTo(FileName.LONGEST);
    assertThat(name).isLessThan(next).endsWith("." + f.ext());
    BackupName back = BackupName.parse(name).orElseThrow();
    assertThat(back.sequence()).isEqualTo(sequence);
    assertThat(back.time()).isEqualTo(time);
  }

  @Example
  void aCaptureNameReadsRightWithoutKavrin() {
    assertThat(
            BackupName.of("carriage-02.glb", 42, OffsetDateTime.parse("2031-03-03T14:20:08+02:00"))
                .written())
        .isEqualTo("carriage-02.000042.2031-03-03T142008+0200.glb");
  }

  @Example
  void impossibleTimesDoNotParse() {
    assertThat(NamePattern.of("{stem}.{time}.{ext}").parse("a.20310230T250000.glb")).isEmpty();
  }

  @Example
  void patternsThatCannotWorkAreRefused() {
    for (String bad : new String[] {"", "a/{stem}", "no-hole", "{stem}{stem}"}) {
      assertThatThrownBy(() -> NamePattern.of(bad)).isInstanceOf(IllegalArgumentException.class);
    }
  }

  /** Common practice, no source: habits many programs share. */
  @Example
  void sharedHabitsOfNamingABackupAreKnown() {
    for (String name :
        new String[] {
          "carriage.glb.bak",
          "carriage.bak",
          "carriage.glb~",
          "carriage.glb.3",
          "carriage.glb1",
          "carriage_007.glb",
          ".~carriage.glb",
          "~carriage.glb",
          "#carriage.glb#",
          "carriage-20310303T142008.glb"
        }) {
      assertThat(Conventions.stemsBehind(name)).as(name).contains("carriage");
    }
    assertThat(Conventions.stemsBehind("carriage-rear.glb")).isEmpty();
    assertThat(Conventions.stemsBehind("carriage.glb")).isEmpty();
  }

  @Example
  void theNextNumberKeepsItsZeros() {
    assertThat(FileName.of("carriage-02.glb").next(1).written()).isEqualTo("carriage-03.glb");
    assertThat(FileName.of("carriage-099.glb").next(1).written()).isEqualTo("carriage-100.glb");
    assertThat(FileName.of("carriage.glb").next(1).written()).isEqualTo("carriage-02.glb");
  }
}
