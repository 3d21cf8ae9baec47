package dev.kavrin.core.version;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.version.SetRule.Claim;
import dev.kavrin.core.version.SetRule.Member;
import dev.kavrin.core.version.SetRule.Role;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** The order of steps, and what a file is by its name. */
class RunsTest {
  private static final Instant START = Instant.parse("2031-03-03T09:00:00Z");
  private static final SetRule RULE =
      new SetRule(
          List.of(
              new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.json")),
              new Member(Role.RESTART, "restart", NamePattern.of("{stem}-{step}.h5")),
              new Member(Role.RESULT, "", NamePattern.of("{stem}-{step}.result.h5"))));

  private static List<Runs.Seen> written(List<Integer> steps) {
    List<Runs.Seen> seen = new ArrayList<>();
    for (int n = 0; n < steps.size(); n++) {
      seen.add(new Runs.Seen(steps.get(n), START.plusSeconds(n)));
    }
    return seen;
  }

  @Property(tries = 300)
  void whateverIsWrittenTheOrderOfTheWorkIsTheOrderOfTheWriting(
      @ForAll @Size(min = 1, max = 40) List<@IntRange(max = 30) Integer> steps, @ForAll long seed) {
    List<Runs.Seen> seen = written(steps);
    List<Runs.Step> ordered = Runs.order(List.of(), seen);
    assertThat(ordered).hasSameSizeAs(seen).isSorted().doesNotHaveDuplicates();
    assertThat(ordered).extracting(Runs.Step::written).isSorted();
    Collections.shuffle(seen, new Random(seed));
    assertThat(Runs.order(List.of(), seen)).isEqualTo(ordered);
  }

  @Property(tries = 200)
  void stepsThatAreKnownKeepTheirRunAndNewOnesGoOnFromThem(
      @ForAll @Size(min = 2, max = 30) List<@IntRange(max = 20) Integer> steps,
      @ForAll @IntRange(min = 1, max = 29) int known) {
    List<Runs.Seen> seen = written(steps);
    List<Runs.Step> whole = Runs.order(List.of(), seen);
    int split = Math.min(known, steps.size() - 1);
    assertThat(Runs.order(whole.subList(0, split), seen.subList(split, seen.size())))
        .isEqualTo(whole.subList(split, whole.size()));
  }

  @Test
  void aRerunFromStepOneHundredAndTwentyIsTheSecondRun() {
    List<Integer> steps = new ArrayList<>();
    for (int s = 1; s <= 200; s++) {
      steps.add(s);
    }
    for (int s = 121; s <= 130; s++) {
      steps.add(s);
    }
    List<Runs.Step> ordered = Runs.order(List.of(), written(steps));
    assertThat(ordered.get(199)).isEqualTo(new Runs.Step(1, 200, START.plusSeconds(199)));
    assertThat(ordered.get(200)).isEqualTo(new Runs.Step(2, 121, START.plusSeconds(200)));
  }

  @Test
  void aFileIsWhatItsNameAndFolderSayAndOnlyForItsOwnSetUp() {
    assertThat(RULE.claim("disc.setup.json", "restart", "disc-0120.h5"))
        .contains(new Claim(Role.RESTART, 120L, ""));
    assertThat(RULE.claim("disc.setup.json", "", "disc-0120.h5")).as("another folder").isEmpty();
    assertThat(RULE.claim("disc.setup.json", "restart", "drum-0120.h5"))
        .as("of another run in the same folder")
        .isEmpty();
    assertThat(RULE.claim("disc.setup.json", "", "disc-7.result.h5"))
        .contains(new Claim(Role.RESULT, 7L, ""));
    assertThat(RULE.claim("disc.setup.json", "", "disc.setup.json")).isEmpty();
    assertThat(RULE.isSetup("disc.setup.json")).isTrue();
    assertThat(RULE.isStep("notes.txt")).isFalse();
    assertThat(RULE.roleOf("disc-0007.result.h5")).contains(Role.RESULT);
  }

  @Property(tries = 300)
  void everyStepANameCanTellIsReadBack(@ForAll @IntRange(max = 2_000_000) int step) {
    String name = String.format("brake disc-%04d.h5", step);
    assertThat(RULE.claim("brake disc.setup.json", "restart", name))
        .contains(new Claim(Role.RESTART, (long) step, ""));
  }

  @Test
  void twoMembersOfOneRoleAndNamesThatCannotBeMeantAreRefused() {
    Member setup = new Member(Role.SETUP, "", NamePattern.of("{stem}.json"));
    Member restart = new Member(Role.RESTART, "", NamePattern.of("{step}.h5"));
    assertThatThrownBy(() -> new SetRule(List.of(setup, restart, restart)))
        .hasMessageContaining("one name pattern only");
    assertThatThrownBy(() -> new Member(Role.RESTART, "/etc", NamePattern.of("{step}.h5")))
        .hasMessageContaining("/etc");
    assertThatThrownBy(() -> NamePattern.of("../{step}.h5")).hasMessageContaining("one file name");
    assertThatThrownBy(() -> new RunCounts(1_000_000, 1, false)).hasMessageContaining("1000000");
  }

  @Test
  void aSaveAsChainIsWhatSharesAllButTheNumber() {
    assertThat(FileName.of("carriage-02.glb").chain())
        .isEqualTo(FileName.of("carriage-03.GLB").chain())
        .isEqualTo(FileName.of("carriage.glb").chain())
        .isNotEqualTo(FileName.of("carriage-02-trial.glb").chain())
        .isNotEqualTo(FileName.of("carriage-02.obj").chain());
    assertThat(FileName.of("2031.glb").chain().stem()).isEqualTo("2031");
  }
}
