package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.backup.RunStatus;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepSet;
import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Pauses;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Member;
import dev.kavrin.core.version.SetRule.Role;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** Runs as companion sets, on real files: what is taken, what stays, what is told. */
class RunTest extends EngineFixture {
  private static final UUID RUN = new UUID(8, 8);
  private static final SetRule RULE =
      new SetRule(
          List.of(
              new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.json")),
              new Member(Role.RESTART, "restart", NamePattern.of("{stem}-{step}.restart.h5")),
              new Member(Role.RESULT, "results", NamePattern.of("{stem}-{step}.result.h5"))));
  private Path setup;

  private void begin(Plan plan, SetRule rule, String... keeps) throws IOException {
    start(plan, keeps);
    project = project.joining(List.of(), rule);
    recoveries.record(new JournalEntry.ProjectSet(now, "Tove Asgrim", project));
    recoveries.record(new JournalEntry.DocumentSet(now, RUN, project.id(), "heat/disc.setup.json"));
    setup = live.resolveSibling("heat/disc.setup.json");
    write(setup, "{\"flux\":1}".getBytes(StandardCharsets.UTF_8));
    open();
    look();
  }

  private static Plan steps(int every, int restarts, int everyResult) {
    return Plan.every(Duration.ZERO, Counts.newest(3), Duration.ofMinutes(15))
        .onSteps(every, new RunCounts(restarts, everyResult, false));
  }

  private void field(String name, long step, double value) throws IOException {
    Path path = setup.resolveSibling(name);
    Files.createDirectories(path.getParent());
    try (WritableHdfFile file = HdfFile.write(path)) {
      file.putAttribute("step", step);
      file.putDataset("temperature", new double[] {value, now.toEpochMilli()});
    }
    Files.setLastModifiedTime(path, FileTime.from(now));
  }

  private void compute(long from, long to) throws IOException {
    for (long step = from; step <= to; step++) {
      field("restart/disc-%04d.restart.h5".formatted(step), step, 300 + step);
      field("results/disc-%04d.result.h5".formatted(step), step, 300.5 + step);
      pass(Duration.ofSeconds(15));
    }
    pass(Duration.ofSeconds(15));
  }

  private List<KeepSet> sets() {
    return new KeepInputs(recovery.history(), RUN).sets();
  }

  private List<String> standing(Role role) {
    return recovery.history().captures(RUN).stream()
        .filter(c -> c.role() == role)
        .map(c -> Path.of(c.source()).getFileName().toString())
        .sorted()
        .toList();
  }

  private static List<String> names(String what, long... steps) {
    return LongStream.of(steps).mapToObj(s -> "disc-%04d.%s.h5".formatted(s, what)).toList();
  }

  /** Common practice, no source: every step, keep five, a run of ten leaves 6 to 10. */
  @Test
  void everyStepKeepFiveRunTenLeavesSixToTen() throws IOException {
    begin(steps(1, 5, 0), RULE, "keep");
    compute(1, 10);
    assertThat(standing(Role.RESTART)).isEqualTo(names("restart", 6, 7, 8, 9, 10));
    assertThat(standing(Role.RESULT)).isEmpty();
  }

  @Test
  void resultsAreCopiedOnceAndTheSetUpWhenItChanged() throws IOException {
    begin(steps(2, 2, 5), RULE, "keep");
    compute(1, 5);
    write(setup, "{\"flux\":2}".getBytes(StandardCharsets.UTF_8));
    compute(6, 11);
    assertThat(standing(Role.RESTART)).isEqualTo(names("restart", 8, 10));
    assertThat(standing(Role.RESULT)).isEqualTo(names("result", 5, 10));
    assertThat(standing(null)).hasSize(2);
    List<SetRecord> sets = recovery.history().sets(RUN);
    assertThat(sets).extracting(SetRecord::step).containsExactly(2L, 4L, 5L, 6L, 8L, 10L);
    assertThat(sets.get(2).lacks()).containsExactly("its restart file is not kept by the plan");
    assertThat(sets.get(1).members(Role.SETUP).get(0).content())
        .isNotEqualTo(sets.get(4).members(Role.SETUP).get(0).content());
    assertThat(sets())
        .filteredOn(KeepSet::whole)
        .extracting(KeepSet::step)
        .containsExactly(8L, 10L);
    int before = recovery.history().allCaptures().size();
    pass(Duration.ofMinutes(2));
    open();
    pass(Duration.ofMinutes(2));
    assertThat(recovery.history().allCaptures()).as("never twice").hasSize(before);
  }

  @Test
  void aRerunFromAnEarlierStepIsANewRunAndIsNeverDroppedForAnOlderOne() throws IOException {
    begin(steps(1, 4, 0), RULE, "keep");
    compute(1, 6);
    open();
    compute(3, 5);
    assertThat(recovery.history().sets(RUN))
        .extracting(s -> s.run() + "/" + s.step())
        .containsExactly("1/1", "1/2", "1/3", "1/4", "1/5", "1/6", "2/3", "2/4", "2/5");
    assertThat(sets())
        .filteredOn(KeepSet::whole)
        .extracting(s -> s.run() + "/" + s.step())
        .containsExactly("1/6", "2/3", "2/4", "2/5");
    RunStatus status =
        watch.status().stream()
            .filter(s -> s.document().equals(RUN))
            .findFirst()
            .orElseThrow()
            .run();
    assertThat(status.run()).isEqualTo(2);
    assertThat(status.step()).isEqualTo(5);
    assertThat(status.heldStep()).isEqualTo(5L);
  }

  @Test
  void aFinishedRunThatIsFoundLaterIsNotCopiedOnlyToBeDropped() throws IOException {
    begin(steps(0, 3, 10), RULE, "keep");
    compute(1, 20);
    assertThat(recovery.history().captures(RUN)).isEmpty();
    change(steps(2, 3, 10));
    pass(Duration.ofSeconds(30));
    assertThat(recovery.history().sets(RUN))
        .extracting(SetRecord::step)
        .containsExactly(10L, 16L, 18L, 20L);
    assertThat(recovery.history().bin()).isEmpty();
  }

  @Test
  void aRunThatRestedForDaysIsSeenAtOnceWhenItGoesOn() throws IOException {
    begin(steps(1, 3, 0), RULE, "keep");
    compute(1, 2);
    wait(Duration.ofDays(3));
    look();
    compute(3, 3);
    assertThat(standing(Role.RESTART)).isEqualTo(names("restart", 1, 2, 3));
    wait(Duration.ofDays(3));
    look();
    write(
        setup.resolveSibling("restart/disc-0003.restart.h5"),
        Files.readAllBytes(setup.resolveSibling("restart/disc-0002.restart.h5")));
    pass(Duration.ofMinutes(11));
    assertThat(recovery.history().sets(RUN))
        .as("written over in place: no name came or went, so it takes a while")
        .extracting(s -> s.run() + "/" + s.step())
        .contains("2/3");
  }

  @Test
  void everyStepWrittenIsNotedOnceWhetherItIsCopiedOrNot() throws IOException {
    begin(steps(5, 2, 0), RULE, "keep");
    pass(Duration.ofSeconds(15));
    compute(1, 7);
    open();
    look();
    open();
    compute(8, 8);
    long noted =
        recovery.journal().readAll().entries().stream()
            .filter(e -> e instanceof JournalEntry.Written w && w.document().equals(RUN))
            .count();
    assertThat(noted).as("the set-up and eight steps").isEqualTo(9);
  }

  @Test
  void anIncompleteStepIsToldAndNeverCountsAsWhole() throws IOException {
    begin(steps(1, 3, 1), RULE, "keep");
    field("restart/disc-0001.restart.h5", 1, 1);
    pass(Duration.ofSeconds(30));
    assertThat(sets()).as("the result may still come").isEmpty();
    pass(Duration.ofMinutes(3));
    assertThat(recovery.history().sets(RUN).get(0).lacks())
        .containsExactly("its result is missing");
    assertThat(sets().get(0).whole()).isFalse();
    field("results/disc-0001.result.h5", 1, 1.5);
    pass(Duration.ofSeconds(30));
    assertThat(sets()).singleElement().matches(KeepSet::whole);
  }

  @Test
  void twoFilesThatClaimOneStepAreTold() throws IOException {
    begin(steps(1, 3, 0), RULE, "keep");
    field("restart/disc-0001.restart.h5", 1, 1);
    wait(Duration.ofSeconds(5));
    field("restart/disc-1.restart.h5", 1, 2);
    pass(Duration.ofSeconds(30));
    assertThat(recovery.history().sets(RUN).get(0).lacks().get(0))
        .contains("two files claim its restart file", "disc-1.restart.h5", "disc-0001.restart.h5");
    assertThat(sets().get(0).whole()).isFalse();
  }

  @Test
  void aStepIsReadFromInsideWhereTheNameTellsNone() throws IOException {
    SetRule inside =
        new SetRule(
            List.of(
                new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.json")),
                new Member(Role.RESTART, "", NamePattern.of("{stem}.restart.h5"))));
    begin(steps(5, 2, 0), inside, "keep");
    for (long step = 1; step <= 17; step++) {
      field("disc.restart.h5", step, step);
      for (int second = 0; second < 6; second++) {
        wait(Duration.ofSeconds(1));
        look();
      }
    }
    assertThat(recovery.history().sets(RUN))
        .extracting(SetRecord::step)
        .containsExactly(5L, 10L, 15L);
    assertThat(standing(Role.RESTART)).hasSize(2);
  }

  @Test
  void theLastStepBeforeARunDivergedStays() throws IOException {
    begin(steps(1, 2, 0), RULE, "keep");
    compute(1, 4);
    for (long step = 5; step <= 9; step++) {
      field("restart/disc-%04d.restart.h5".formatted(step), step, Double.NaN);
      pass(Duration.ofSeconds(30));
    }
    assertThat(standing(Role.RESTART))
        .as("two newest, and two one can go on from")
        .isEqualTo(names("restart", 3, 4, 8, 9));
    assertThat(new KeepInputs(recovery.history(), RUN).protecting())
        .filteredOn(c -> c.role() == Role.RESTART)
        .singleElement()
        .matches(c -> c.verdict() == Verdict.INTACT)
        .matches(c -> c.source().endsWith("disc-0004.restart.h5"));
  }

  @Test
  void stepsWaitWhileHandsAreOffAndAreMadeUpFor() throws IOException {
    Plan plan = steps(1, 3, 1).with(new Pauses("modeller", "", false, Duration.ZERO));
    begin(plan, RULE, "keep");
    programRuns = true;
    compute(1, 5);
    assertThat(recovery.history().sets(RUN)).isEmpty();
    assertThat(watch.status())
        .filteredOn(s -> s.document().equals(RUN))
        .singleElement()
        .matches(s -> s.heldBy() != null);
    programRuns = false;
    pass(Duration.ofSeconds(30));
    assertThat(standing(Role.RESTART)).isEqualTo(names("restart", 3, 4, 5));
    assertThat(standing(Role.RESULT)).isEqualTo(names("result", 1, 2, 3, 4, 5));
  }

  @Test
  void aFolderThatWasAwayHoldsTheSameWholeStepsInTheEnd() throws IOException {
    begin(steps(1, 3, 2), RULE, "keep", "shelf");
    pass(Duration.ofMinutes(1));
    compute(1, 2);
    takeAway(1);
    compute(3, 6);
    bringBack(1);
    pass(Duration.ofMinutes(2));
    compute(7, 7);
    assertThat(new KeepInputs(folders.get(1).history(), RUN).sets()).isEqualTo(sets());
    assertThat(sets())
        .filteredOn(KeepSet::whole)
        .extracting(KeepSet::step)
        .containsExactly(5L, 6L, 7L);
  }

  @Test
  void whateverARunDoesItsNewestWholeStepStandsAndStaysReadable() throws IOException {
    Random random = new Random(42);
    for (int life = 0; life < (Boolean.getBoolean("kavrin.full") ? 30 : 4); life++) {
      begin(steps(1 + random.nextInt(3), 1 + random.nextInt(4), random.nextInt(4)), RULE, "keep");
      long step = 0;
      for (int n = 0; n < 40; n++) {
        step = random.nextInt(8) == 0 ? Math.max(1, step - random.nextInt(9)) : step + 1;
        if (random.nextInt(9) == 0) {
          write(setup, ("{\"flux\":" + n + "}").getBytes(StandardCharsets.UTF_8));
        }
        compute(step, step);
        if (random.nextInt(10) == 0) {
          open();
        }
        assertWhole();
      }
    }
  }

  private void assertWhole() throws IOException {
    List<SetRecord> taken =
        recovery.history().sets(RUN).stream().filter(s -> s.lacks().isEmpty()).toList();
    if (taken.isEmpty()) {
      return;
    }
    SetRecord newest = taken.get(taken.size() - 1);
    for (SetRecord.Member member : newest.members()) {
      assertThat(recovery.history().captures(RUN))
          .filteredOn(c -> c.state().equals(member.unit()))
          .as(newest.run() + "/" + newest.step() + " " + member.role())
          .isNotEmpty()
          .allSatisfy(
              c ->
                  assertThat(publisher.identify(recovery.absolute(c.path())))
                      .isEqualTo(member.content()));
    }
  }

  @Test
  void aRuleSaysWhatIsWrongWithIt() {
    Member setupOnly = new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.json"));
    assertThatThrownBy(() -> new SetRule(List.of(setupOnly))).hasMessageContaining("restart file");
    assertThatThrownBy(() -> new Member(Role.RESULT, "../other", NamePattern.of("{step}.h5")))
        .hasMessageContaining("below");
    assertThatThrownBy(() -> new RunCounts(-1, 1, false)).hasMessageContaining("-1");
    assertThatThrownBy(() -> steps(-1, 1, 1)).hasMessageContaining("-1");
  }
}
