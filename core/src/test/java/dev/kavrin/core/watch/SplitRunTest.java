package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.RunFolder;
import dev.kavrin.core.backup.RunStatus;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepSet;
import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.core.restore.StepLayout.Piece;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Member;
import dev.kavrin.core.version.SetRule.Role;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Restarts that are split over processes, a file of each: all of a step or nothing of it. */
class SplitRunTest extends EngineFixture {
  private static final UUID RUN = new UUID(8, 8);
  private static final Duration HARD_LIMIT = Duration.ofMinutes(4);
  private static final SetRule RULE =
      new SetRule(
          List.of(
              new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.txt")),
              new Member(Role.RESTART, "restart", NamePattern.of("{stem}-{step}.{n}.part"))));
  private Path setup;

  @BeforeEach
  void begin() throws IOException {
    start(
        Plan.every(Duration.ZERO, Counts.newest(3), Duration.ofMinutes(15))
            .onSteps(1, new RunCounts(2, 0, false)),
        "keep");
    project = project.joining(List.of(), RULE);
    recoveries.record(new JournalEntry.ProjectSet(now, "Tove Asgrim", project));
    recoveries.record(new JournalEntry.DocumentSet(now, RUN, project.id(), "heat/disc.setup.txt"));
    setup = live.resolveSibling("heat/disc.setup.txt");
    written(setup, "flux 1");
    open();
    look();
  }

  private void written(Path file, String words) throws IOException {
    Files.createDirectories(file.getParent());
    write(file, words.getBytes(StandardCharsets.UTF_8));
    Files.setLastModifiedTime(file, FileTime.from(now));
  }

  private static String name(long step, int part) {
    return "restart/disc-%04d.%02d.part".formatted(step, part);
  }

  private void parts(long step, int from, int to) throws IOException {
    for (int part = from; part < to; part++) {
      written(setup.resolveSibling(name(step, part)), "T " + step + " of process " + part);
    }
  }

  private void step(long step, int parts) throws IOException {
    parts(step, 0, parts);
    pass(Duration.ofSeconds(30));
  }

  private List<SetRecord> sets() {
    return recovery.history().sets(RUN);
  }

  private SetRecord newest() {
    return sets().get(sets().size() - 1);
  }

  private List<Long> whole() {
    return new KeepInputs(recovery.history(), RUN)
        .sets().stream().filter(KeepSet::whole).map(KeepSet::step).toList();
  }

  private long standing() {
    return recovery.history().captures(RUN).stream().filter(b -> b.role() != null).count();
  }

  @Test
  void sixteenFilesAreOneStepAndStayOrGoTogether() throws IOException {
    for (long step = 1; step <= 4; step++) {
      step(step, 16);
    }
    pass(HARD_LIMIT);
    assertThat(sets()).extracting(SetRecord::step).containsExactly(1L, 2L, 3L, 4L);
    assertThat(sets()).allMatch(s -> s.members(Role.RESTART).size() == 16 && s.lacks().isEmpty());
    assertThat(whole()).containsExactly(3L, 4L);
    assertThat(standing()).isEqualTo(2 * 16);
  }

  @Test
  void aStepWithAFileThatIsYetToComeIsNotTakenAndNeverCalledWhole() throws IOException {
    step(1, 16);
    step(2, 16);
    parts(3, 0, 15);
    pass(Duration.ofMinutes(1));
    assertThat(newest().step()).as("waits for the last file").isEqualTo(2);
    RunStatus status =
        watch.status().stream()
            .filter(s -> s.document().equals(RUN))
            .findFirst()
            .orElseThrow()
            .run();
    assertThat(status.step()).isEqualTo(3);
    assertThat(status.told()).containsExactly("of its restart files 15 is missing");

    step(4, 16);
    pass(HARD_LIMIT);
    assertThat(sets().get(2).lacks()).containsExactly("of its restart files 15 is missing");
    assertThat(whole()).doesNotContain(3L).contains(4L);

    parts(3, 15, 16);
    pass(HARD_LIMIT);
    assertThat(whole()).as("it came after all").contains(3L, 4L);
  }

  @Test
  void withoutAnyStepBeforeItTheFirstWaitsForTheLimitAndANumberLeftOutIsTold() throws IOException {
    parts(1, 0, 3);
    parts(1, 4, 6);
    pass(Duration.ofMinutes(2));
    assertThat(sets()).isEmpty();
    pass(HARD_LIMIT);
    assertThat(newest().lacks()).containsExactly("of its restart files 03 is missing");
    assertThat(whole()).isEmpty();
  }

  @Test
  void aRunThatGoesOnWithFewerProcessesIsWholeOnceTheNextStepSaysSo() throws IOException {
    step(1, 16);
    step(2, 16);
    step(3, 8);
    pass(HARD_LIMIT);
    assertThat(newest().lacks()).containsExactly("of its restart files 8 are missing");
    assertThat(whole()).containsExactly(1L, 2L);
    step(4, 8);
    pass(HARD_LIMIT);
    assertThat(whole()).containsExactly(3L, 4L);
  }

  @Test
  void whereTheRunKeepsOnlyItsNewestStepItIsHeldAgainstTheCopies() throws IOException {
    step(1, 4);
    pass(HARD_LIMIT);
    for (int part = 0; part < 4; part++) {
      Files.delete(setup.resolveSibling(name(1, part)));
    }
    parts(2, 0, 3);
    pass(Duration.ofMinutes(1));
    assertThat(newest().step()).isEqualTo(1);
    parts(2, 3, 4);
    pass(Duration.ofMinutes(1));
    assertThat(whole()).containsExactly(1L, 2L);
  }

  @Test
  void aSplitStepIsLaidOutAndReadBackWhole() throws IOException {
    step(1, 16);
    step(2, 16);
    pass(HARD_LIMIT);
    SetRecord set = newest();
    List<Piece> pieces =
        set.members().stream()
            .map(m -> new Piece(recovery.absolute(copy(m.unit()).path()), m.content(), m.path()))
            .toList();
    Path elsewhere = root.resolve("elsewhere");
    Files.createDirectories(elsewhere);
    StepLayout layout = restorer.planner().layout(pieces, elsewhere, elsewhere, "step-2");
    restorer.layOut(layout, RUN, "Tove Asgrim");
    try (Stream<Path> all = Files.walk(layout.folder())) {
      assertThat(all.filter(Files::isRegularFile)).hasSize(17);
    }
    assertThat(IntStream.range(0, 16))
        .allSatisfy(
            part ->
                assertThat(layout.folder().resolve(name(2, part)))
                    .hasContent("T 2 of process " + part));
    assertThat(layout.folder().resolve("disc.setup.txt")).hasContent("flux 1");
  }

  /** A folder for each process, in it one for each step; both are common practice, no source. */
  @Test
  void filesThatAreCalledAlikeInFoldersOfProcessesAndStepsAreOneStep() throws IOException {
    project =
        project.joining(
            List.of(),
            new SetRule(
                List.of(
                    new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.txt")),
                    new Member(Role.RESTART, "process{n}/{step}", NamePattern.of("field.{ext}")))));
    recoveries.record(new JournalEntry.ProjectSet(now, "Tove Asgrim", project));
    open();
    for (long step : List.of(100L, 200L)) {
      for (int process = 0; process < 4; process++) {
        String where = "process%d/%d/field.part".formatted(process, step);
        written(setup.resolveSibling(where), "T " + step + " of process " + process);
      }
      pass(Duration.ofMinutes(1));
    }
    written(setup.resolveSibling("process0/300/field.part"), "T 300 of process 0");
    pass(HARD_LIMIT.plusMinutes(1));
    assertThat(whole()).containsExactly(100L, 200L);
    assertThat(newest().step()).isEqualTo(300);
    assertThat(newest().lacks()).containsExactly("of its restart files 1, 2, 3 are missing");
    assertThat(sets().get(1).members(Role.RESTART))
        .extracting(SetRecord.Member::path)
        .containsExactly(
            "process0/200/field.part",
            "process1/200/field.part",
            "process2/200/field.part",
            "process3/200/field.part");
  }

  @Test
  void aRunWhoseFolderIsGoneHasNoStepsAndItsCopiesStay() throws IOException {
    step(1, 4);
    pass(HARD_LIMIT);
    forget(setup.getParent());
    assertThat(RunFolder.folders(disk, RULE, setup)).isEmpty();
    pass(Duration.ofMinutes(1));
    assertThat(whole()).containsExactly(1L);
    assertThat(watch.status())
        .filteredOn(s -> s.document().equals(RUN))
        .singleElement()
        .satisfies(s -> assertThat(s.present()).isFalse());
  }

  private static void forget(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }

  private BackupRecord copy(String unit) {
    return recovery.history().captures(RUN).stream()
        .filter(b -> b.state().equals(unit))
        .findFirst()
        .orElseThrow();
  }
}
