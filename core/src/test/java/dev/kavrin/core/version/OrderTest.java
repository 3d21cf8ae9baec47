package dev.kavrin.core.version;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.Sketch;
import dev.kavrin.core.keep.ClearOut;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.naming.LocalTimes;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.units.Span;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** What numbers, names and times tell of the order of the work. */
class OrderTest {
  private static final Instant BASE = Instant.parse("2031-03-03T12:00:00Z");
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

  private static Chronicle.Copy numbered(String state, String name, long minute) {
    NamePattern pattern = NamePattern.of("{stem}~{n}.tmp");
    return new Chronicle.Copy(
        state,
        Path.of("/w/.drafts/" + name),
        BASE.plusSeconds(minute * 60),
        null,
        false,
        pattern,
        pattern.parse(name).orElseThrow(),
        null,
        null,
        null);
  }

  private static List<String> order(List<Chronicle.Copy> copies) {
    return new Chronicle(OSLO).order(copies).stream().map(VersionOrder.Placed::state).toList();
  }

  /** A ring of ten that wrapped: …, 9, 10, 1, 2: the newest is 2 (common practice, no source). */
  @Property(tries = 200)
  void aRingIsCutWhereItsTimesGoBack(
      @ForAll @IntRange(min = 2, max = 12) int slots, @ForAll @IntRange(max = 30) int writes) {
    List<Chronicle.Copy> copies = new ArrayList<>();
    List<String> truth = new ArrayList<>();
    int from = Math.max(0, writes - slots);
    for (int w = from; w < writes; w++) {
      copies.add(numbered("s" + w, "carriage~" + (w % slots + 1) + ".tmp", w * 10L));
      truth.add("s" + w);
    }
    assertThat(order(copies)).isEqualTo(truth);
  }

  /** Nothing was changed between two autosaves, so that two slots hold the same. */
  @Property(tries = 200)
  void aRingIsCutRightThoughNeighboursHoldTheSame(
      @ForAll @IntRange(min = 4, max = 12) int slots,
      @ForAll @IntRange(min = 3, max = 30) int writes,
      @ForAll @IntRange(max = 29) int twice) {
    List<Chronicle.Copy> copies = new ArrayList<>();
    List<String> truth = new ArrayList<>();
    for (int w = Math.max(0, writes - slots); w < writes; w++) {
      String state = "s" + (w == twice ? w - 1 : w);
      copies.add(numbered(state, "carriage~" + (w % slots + 1) + ".tmp", w * 10L));
      if (!truth.contains(state)) {
        truth.add(state);
      }
    }
    assertThat(order(copies)).isEqualTo(truth);
  }

  /** A copy somebody made elsewhere may bear the time of the copying. */
  @Test
  void whatOnlyAStrayTellsIsAGuess() {
    Chronicle.Copy seen = told("seen", "/w/carriage.glb", 0, false);
    Chronicle.Copy stray = told("stray", "/usb/carriage old.glb", 600, true);
    VersionOrder.Placed guess = new Chronicle(OSLO).order(List.of(seen, stray)).get(1);
    assertThat(guess.state()).isEqualTo("stray");
    assertThat(guess.orderKnown()).isFalse();
    assertThat(guess.contradictions()).singleElement().asString().contains("copying");
    assertThat(new Chronicle(OSLO).order(List.of(seen, stray)).get(0).orderKnown()).isTrue();
    Chronicle.Copy same = told("stray", "/w/carriage.bak", 5, false);
    assertThat(new Chronicle(OSLO).order(List.of(seen, stray, same)))
        .allMatch(VersionOrder.Placed::orderKnown);
  }

  @Test
  void aFileFromTheFutureIsNoNewerThanTheMomentItWasSeen() {
    Instant seen = BASE.plusSeconds(60);
    Chronicle.Copy ahead =
        new Chronicle.Copy(
            "ahead",
            Path.of("/w/carriage.glb"),
            BASE.plus(Duration.ofDays(1595)),
            seen,
            false,
            null,
            NameFields.of("", ""),
            null,
            null,
            null);
    VersionOrder.Placed placed = new Chronicle(OSLO).order(List.of(ahead)).get(0);
    assertThat(placed.work()).isEqualTo(Span.at(seen));
    assertThat(placed.orderKnown()).isFalse();
  }

  private static Chronicle.Copy told(String state, String path, long minute, boolean elsewhere) {
    return new Chronicle.Copy(
        state,
        Path.of(path),
        BASE.plusSeconds(minute * 60),
        null,
        elsewhere,
        null,
        NameFields.of("", ""),
        null,
        null,
        null);
  }

  @Test
  void numbersThatMoveUpRunBackward() {
    List<Chronicle.Copy> copies =
        List.of(
            numbered("newest", "carriage~1.tmp", 30),
            numbered("middle", "carriage~2.tmp", 20),
            numbered("oldest", "carriage~3.tmp", 10));
    assertThat(order(copies)).containsExactly("oldest", "middle", "newest");
  }

  @Test
  void aRingCopiedInOneGoHasNoOrder() {
    List<Chronicle.Copy> copies =
        List.of(
            numbered("a", "carriage~1.tmp", 0),
            numbered("b", "carriage~2.tmp", 0),
            numbered("c", "carriage~3.tmp", 0));
    assertThat(new Chronicle(OSLO).order(copies)).noneMatch(VersionOrder.Placed::orderKnown);
  }

  @Test
  void aNameOutweighsTheFileSystemAndSaysSo() {
    NamePattern pattern = NamePattern.of("{stem}.{time}.{ext}");
    String name = "carriage.20310303T142000.glb";
    Chronicle.Copy copy =
        new Chronicle.Copy(
            "s",
            Path.of("/w/" + name),
            Instant.parse("2031-03-05T08:03:00Z"),
            null,
            false,
            pattern,
            pattern.parse(name).orElseThrow(),
            null,
            null,
            null);
    VersionOrder.Placed placed = new Chronicle(OSLO).order(List.of(copy)).get(0);
    assertThat(placed.work().lo()).isEqualTo(Instant.parse("2031-03-03T13:20:00Z"));
    assertThat(placed.contradictions())
        .containsExactly(
            "its name says 3 Mar 14:20, the file system says 5 Mar 09:03: it was copied");
  }

  /** Clocks in Oslo went back on 26 October 2031 at 03:00, so 02:30 came twice. */
  @Test
  void aDoubledHourIsAWideOne() {
    Span span = LocalTimes.span(LocalDateTime.of(2031, 10, 26, 2, 30), OSLO, Duration.ZERO);
    assertThat(span.width()).isEqualTo(Duration.ofHours(1));
    Span gap = LocalTimes.span(LocalDateTime.of(2031, 3, 30, 2, 30), OSLO, Duration.ZERO);
    assertThat(gap.lo()).isEqualTo(Instant.parse("2031-03-30T01:00:00Z"));
  }

  /** Content-defined chunks: what stands before and after an insertion stays known. */
  @Property(tries = 60)
  void anInsertionLeavesTheRestKnown(
      @ForAll @IntRange(min = 40_000, max = 200_000) int size,
      @ForAll @IntRange(min = 1, max = 3_000) int added,
      @ForAll long seed)
      throws IOException {
    Random random = new Random(seed);
    byte[] file = new byte[size];
    random.nextBytes(file);
    int at = random.nextInt(size);
    byte[] other = new byte[size + added];
    random.nextBytes(other);
    System.arraycopy(file, 0, other, 0, at);
    System.arraycopy(file, at, other, at + added, size - at);
    Sketch own = sketch(file);
    assertThat(own.length()).isEqualTo(size);
    assertThat(own.shared(own)).isEqualTo(1);
    assertThat(own.shared(sketch(other))).isGreaterThan(0.5);
    random.nextBytes(other);
    assertThat(own.shared(sketch(other))).isZero();
    assertThat(own.shared(sketch(Arrays.copyOf(file, size / 2)))).isGreaterThan(0.5);
  }

  private static Sketch sketch(byte[] bytes) throws IOException {
    return Sketch.of(new ByteArrayInputStream(bytes));
  }

  @Property(tries = 200)
  void clearingOutKeepsTheNewestWholeAndThePinned(
      @ForAll @IntRange(min = 1, max = 40) int count,
      @ForAll @IntRange(max = 40) int newest,
      @ForAll @IntRange(max = 40) int days,
      @ForAll boolean damaged,
      @ForAll @IntRange(max = 4_000) int need) {
    List<KeepState> states = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      Set<String> marks = i % 7 == 3 ? Set.of("pinned") : Set.of();
      states.add(
          new KeepState("s" + i, i + 1, BASE.plus(Duration.ofDays(i)), 100, i % 5 != 4, marks));
    }
    Instant now = BASE.plus(Duration.ofDays(count));
    ClearOut wish = new ClearOut(Duration.ofDays(days), newest, damaged, need);
    KeepDecision decision = KeepDecision.of(wish.rule(now, List.of()), states);
    states.stream()
        .filter(s -> !s.marks().isEmpty())
        .forEach(s -> assertThat(decision.kept()).containsKey(s.id()));
    states.stream()
        .filter(KeepState::protecting)
        .reduce((a, b) -> b)
        .ifPresent(s -> assertThat(decision.kept()).containsKey(s.id()));
    assertThat(decision.dropped())
        .allMatch(id -> states.stream().anyMatch(s -> s.id().equals(id) && s.marks().isEmpty()));
  }
}
