package dev.kavrin.core.version;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.EndSigns;
import dev.kavrin.core.profile.EndSigns.Judgement;
import dev.kavrin.core.units.Span;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class VersionOrderTest {
  private static final Instant CRASH = Instant.parse("2031-03-03T14:31:00Z");
  private static final List<String> PARTS = List.of("Frame", "Brake shoe left", "Brake shoe right");

  private static Candidate candidate(
      String state, CopyKind kind, Verdict verdict, int minutesBefore, int parts) {
    return new Candidate(
        state,
        "/place/" + state + kind,
        kind,
        verdict,
        verdict == Verdict.DAMAGED ? "Cut short at 61 %" : "",
        CRASH.minusSeconds(60L * minutesBefore),
        false,
        100,
        PARTS.subList(0, parts),
        null,
        false);
  }

  private static Candidates.Survivors survivors(List<Candidate> all) {
    return Candidates.of(all, CRASH, c -> false, 12);
  }

  private static Optional<Candidate> recommended(List<Candidate> all) {
    return survivors(all).recommended();
  }

  /**
   * However old the crash, however many are damaged: the newest that is whole and of known time.
   */
  @Property(tries = 200)
  void theNewestIntactOneIsRecommended(
      @ForAll @Size(min = 1, max = 60) List<@IntRange(max = 9) Integer> kinds,
      @ForAll @IntRange(max = 525_600) int minutes) {
    List<Candidate> all = new ArrayList<>();
    String truth = null;
    String guess = null;
    for (int i = 0; i < kinds.size(); i++) {
      Verdict verdict = kinds.get(i) < 5 ? Verdict.INTACT : Verdict.DAMAGED;
      boolean guessed = kinds.get(i) < 2;
      all.add(survivor("v" + i, verdict, minutes + 10 * (kinds.size() - i), guessed));
      truth = verdict == Verdict.INTACT && !guessed ? "v" + i : truth;
      guess = guessed ? "v" + i : guess;
    }
    Collections.shuffle(all, new Random(minutes));
    Candidates.Survivors survivors = survivors(all);
    assertThat(survivors.recommended().map(Candidate::state))
        .isEqualTo(Optional.ofNullable(truth == null ? guess : truth));
    assertThat(survivors.shown().size() + survivors.further()).isEqualTo(kinds.size());
    survivors
        .recommended()
        .ifPresent(r -> assertThat(survivors.shown().get(0).candidate()).isEqualTo(r));
  }

  private static Candidate survivor(String state, Verdict verdict, int before, boolean guessed) {
    Candidate c = candidate(state, CopyKind.CAPTURE, verdict, before, 1);
    return new Candidate(
        c.state(),
        c.path(),
        c.kind(),
        c.verdict(),
        c.reason(),
        c.work(),
        guessed,
        c.size(),
        c.parts(),
        null,
        false);
  }

  @Test
  void theRescueFileIsNotAlwaysTheNewest() {
    List<Candidates.Ranked> ranked =
        survivors(
                List.of(
                    candidate("rescue", CopyKind.RESCUE, Verdict.INTACT, 26, 1),
                    candidate("autosave", CopyKind.AUTOSAVE, Verdict.INTACT, 11, 3),
                    candidate("autosave", CopyKind.SECURED, Verdict.INTACT, 11, 3),
                    candidate("live", CopyKind.LIVE, Verdict.DAMAGED, 0, 1)))
            .shown();

    assertThat(ranked)
        .extracting(r -> r.candidate().state())
        .containsExactly("autosave", "rescue", "live");
    assertThat(ranked.get(0).words())
        .isEqualTo("Intact · 11 min before the crash · 3 parts · the same in 1 other copy");
    assertThat(ranked.get(1).words())
        .contains("older than the newest copy")
        .contains("lacks Brake shoe left, Brake shoe right");
    assertThat(ranked.get(2).words()).startsWith("Damaged: Cut short at 61 %");
  }

  @Test
  void aPersonsVerdictOutranksAllOthers() {
    Candidate older = candidate("older", CopyKind.CAPTURE, Verdict.DOUBTFUL, 50, 3);
    Candidate opened =
        new Candidate(
            older.state(),
            older.path(),
            older.kind(),
            older.verdict(),
            "",
            older.work(),
            false,
            100,
            PARTS,
            true,
            false);
    Candidate wrong =
        new Candidate(
            "newest",
            "/n",
            CopyKind.AUTOSAVE,
            Verdict.INTACT,
            "",
            CRASH,
            false,
            100,
            PARTS,
            false,
            false);
    assertThat(recommended(List.of(wrong, opened)))
        .map(Candidate::state)
        .isEqualTo(Optional.of("older"));
  }

  @Test
  void damagedDoubtfulAndUnsettledAreNeverRecommended() {
    Candidate unsettled =
        new Candidate(
            "u", "/u", CopyKind.CAPTURE, Verdict.INTACT, "", CRASH, false, 100, PARTS, null, true);
    assertThat(
            recommended(
                List.of(
                    unsettled,
                    candidate("d", CopyKind.LIVE, Verdict.DAMAGED, 1, 1),
                    candidate("x", CopyKind.AUTOSAVE, Verdict.DOUBTFUL, 1, 1))))
        .isEmpty();
  }

  @Test
  void aCrashNeedsMoreThanANewerAutosave() {
    assertThat(
            new EndSigns(true, false, true, true, false, Verdict.INTACT, false, false, false)
                .judge())
        .isEqualTo(Judgement.CRASH);
    assertThat(
            new EndSigns(true, false, false, true, true, Verdict.INTACT, false, false, false)
                .judge())
        .isEqualTo(Judgement.CRASH);
    assertThat(
            new EndSigns(true, false, false, true, false, Verdict.DAMAGED, false, false, false)
                .judge())
        .isEqualTo(Judgement.CRASH);
    assertThat(
            new EndSigns(true, false, false, true, false, Verdict.INTACT, true, false, false)
                .judge())
        .isEqualTo(Judgement.CLOSED_WITH_UNSAVED_WORK);
    assertThat(
            new EndSigns(true, false, false, true, false, Verdict.INTACT, false, false, false)
                .judge())
        .isEqualTo(Judgement.NOTHING);
    assertThat(
            new EndSigns(true, true, false, true, false, Verdict.INTACT, false, true, false)
                .judge())
        .as("its program wrote down that it crashed, whatever else runs")
        .isEqualTo(Judgement.CRASH);
    assertThat(
            new EndSigns(true, true, false, true, false, Verdict.INTACT, true, false, false)
                .judge())
        .as("another window may still have it")
        .isEqualTo(Judgement.NOTHING);
    assertThat(
            new EndSigns(true, true, true, true, false, Verdict.INTACT, true, false, false).judge())
        .as("the lock file may be the other window's")
        .isEqualTo(Judgement.OPEN_ELSEWHERE_OR_LEFT);
    assertThat(
            new EndSigns(true, false, true, false, false, Verdict.INTACT, true, false, false)
                .judge())
        .as("a program that is known to leave lock files")
        .isEqualTo(Judgement.OPEN_ELSEWHERE_OR_LEFT);
  }

  /** On a share somebody else may have it open; nobody here saw the program. */
  @Test
  void aLockFileAloneIsAQuestion() {
    assertThat(
            new EndSigns(false, false, true, true, false, Verdict.INTACT, true, false, false)
                .judge())
        .isEqualTo(Judgement.OPEN_ELSEWHERE_OR_LEFT);
    assertThat(
            new EndSigns(false, false, true, true, false, Verdict.DAMAGED, false, false, false)
                .judge())
        .isEqualTo(Judgement.CRASH);
    assertThat(
            new EndSigns(false, false, true, true, false, Verdict.INTACT, true, true, false)
                .judge())
        .as("answered by its program's own crash log")
        .isEqualTo(Judgement.CRASH);
    assertThat(
            new EndSigns(false, false, false, true, true, Verdict.DAMAGED, true, false, false)
                .judge())
        .isEqualTo(Judgement.NOTHING);
  }

  @Test
  void theStrongestEvidenceDecidesAndAmongEqualsTheEarliest() {
    Evidence copied = new Evidence(Evidence.Kind.MODIFIED, Span.at(CRASH), "mtime");
    Evidence early = new Evidence(Evidence.Kind.MODIFIED, Span.at(CRASH.minusSeconds(9)), "mtime");
    Evidence named =
        new Evidence(Evidence.Kind.TIME_IN_NAME, Span.at(CRASH.plusSeconds(60)), "name");
    assertThat(Evidence.strongest(List.of(copied, early))).contains(early);
    assertThat(Evidence.strongest(List.of(copied, named))).contains(named);
  }

  @Test
  void aStateIsNamedByWhatItHoldsNotByItsFilesName() {
    Manifest one = Manifest.ofFile(ContentHash.of("bytes"));
    assertThat(one.digest()).isEqualTo(Manifest.ofFile(ContentHash.of("bytes")).digest());
    assertThat(one.digest()).isNotEqualTo(Manifest.ofFile(ContentHash.of("other")).digest());
  }
}
