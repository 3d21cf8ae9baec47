package dev.kavrin.core.version;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.EndSigns;
import dev.kavrin.core.profile.EndSigns.Judgement;
import dev.kavrin.core.units.Span;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
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
        100,
        PARTS.subList(0, parts),
        null,
        false);
  }

  @Test
  void theRescueFileIsNotAlwaysTheNewest() {
    List<Candidates.Ranked> ranked =
        Candidates.rank(
            List.of(
                candidate("rescue", CopyKind.RESCUE, Verdict.INTACT, 26, 1),
                candidate("autosave", CopyKind.AUTOSAVE, Verdict.INTACT, 11, 3),
                candidate("autosave", CopyKind.SECURED, Verdict.INTACT, 11, 3),
                candidate("live", CopyKind.LIVE, Verdict.DAMAGED, 0, 1)),
            CRASH);

    assertThat(ranked)
        .extracting(r -> r.candidate().state())
        .containsExactly("autosave", "rescue", "live");
    assertThat(ranked.get(0).words())
        .isEqualTo("Intact · 11 min before the crash · 3 parts · the same in 1 other place");
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
            100,
            PARTS,
            true,
            false);
    Candidate wrong =
        new Candidate(
            "newest", "/n", CopyKind.AUTOSAVE, Verdict.INTACT, "", CRASH, 100, PARTS, false, false);
    assertThat(Candidates.recommended(Candidates.rank(List.of(wrong, opened), CRASH)))
        .map(Candidate::state)
        .isEqualTo(Optional.of("older"));
  }

  @Test
  void damagedDoubtfulAndUnsettledAreNeverRecommended() {
    Candidate unsettled =
        new Candidate(
            "u", "/u", CopyKind.CAPTURE, Verdict.INTACT, "", CRASH, 100, PARTS, null, true);
    assertThat(
            Candidates.recommended(
                Candidates.rank(
                    List.of(
                        unsettled,
                        candidate("d", CopyKind.LIVE, Verdict.DAMAGED, 1, 1),
                        candidate("x", CopyKind.AUTOSAVE, Verdict.DOUBTFUL, 1, 1)),
                    CRASH)))
        .isEmpty();
  }

  @Test
  void aCrashNeedsMoreThanANewerAutosave() {
    assertThat(new EndSigns(false, true, true, false, Verdict.INTACT, false).judge())
        .isEqualTo(Judgement.CRASH);
    assertThat(new EndSigns(false, true, false, true, Verdict.INTACT, false).judge())
        .isEqualTo(Judgement.CRASH);
    assertThat(new EndSigns(false, true, false, false, Verdict.DAMAGED, false).judge())
        .isEqualTo(Judgement.CRASH);
    assertThat(new EndSigns(false, true, false, false, Verdict.INTACT, true).judge())
        .isEqualTo(Judgement.CLOSED_WITH_UNSAVED_WORK);
    assertThat(new EndSigns(false, true, false, false, Verdict.INTACT, false).judge())
        .isEqualTo(Judgement.NOTHING);
    assertThat(new EndSigns(true, true, true, true, Verdict.DAMAGED, true).judge())
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
