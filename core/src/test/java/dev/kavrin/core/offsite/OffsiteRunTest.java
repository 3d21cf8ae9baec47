package dev.kavrin.core.offsite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.version.SetRule.Member;
import dev.kavrin.core.version.SetRule.Role;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Steps of a run in a store: each comes back with all its files, or is not offered. */
class OffsiteRunTest extends OffsiteFixture {
  private static final UUID RUN = new UUID(8, 8);
  private static final SetRule RULE =
      new SetRule(
          List.of(
              new Member(Role.SETUP, "", NamePattern.of("{stem}.setup.txt")),
              new Member(Role.RESTART, "restart", NamePattern.of("{stem}-{step}.restart.txt")),
              new Member(Role.RESULT, "results", NamePattern.of("{stem}-{step}.result.txt"))));
  private Path setup;

  @BeforeEach
  void run() throws IOException {
    start(
        Plan.every(Duration.ZERO, Counts.newest(9), Duration.ofMinutes(15))
            .onSteps(1, new RunCounts(9, 1, false)),
        "keep");
    project = project.joining(List.of(), RULE);
    recoveries.record(new JournalEntry.ProjectSet(now, "Tove Asgrim", project));
    recoveries.record(new JournalEntry.DocumentSet(now, RUN, project.id(), "heat/disc.setup.txt"));
    setup = live.resolveSibling("heat/disc.setup.txt");
    Files.createDirectories(setup.getParent());
    written(setup, "flux 1");
    open();
    set(address(StoreMark.read(store).orElseThrow().id(), null));
    begin();
    for (int step = 1; step <= 3; step++) {
      written(setup.resolveSibling("restart/disc-%04d.restart.txt".formatted(step)), "T " + step);
      written(setup.resolveSibling("results/disc-%04d.result.txt".formatted(step)), "R " + step);
      pass(Duration.ofSeconds(15));
    }
    pass(Duration.ofSeconds(15));
    rounds(2);
  }

  private void written(Path file, String words) throws IOException {
    Files.createDirectories(file.getParent());
    write(file, words.getBytes(StandardCharsets.UTF_8));
    Files.setLastModifiedTime(file, FileTime.from(now));
  }

  private SetRecord step(long number) {
    return recovery.history().sets(RUN).stream()
        .filter(s -> s.step() == number)
        .findFirst()
        .orElseThrow();
  }

  /** As if somebody had deleted the step's own files from the backup folder. */
  private List<BackupRecord> lose(long number) throws IOException {
    Set<String> units = new HashSet<>();
    step(number).members().stream()
        .filter(m -> m.role() != Role.SETUP)
        .forEach(m -> units.add(m.unit()));
    List<BackupRecord> lost =
        recovery.history().captures(RUN).stream().filter(b -> units.contains(b.state())).toList();
    for (BackupRecord backup : lost) {
      Files.delete(recovery.absolute(backup.path()));
    }
    keeper.reread(RUN, units);
    return lost;
  }

  @Test
  void aStepComesBackWithAllFilesItHad() throws IOException {
    assertThat(recovery.history().sets(RUN)).hasSize(3);
    assertThat(sync.onlyThere(RUN)).isEmpty();
    List<BackupRecord> lost = lose(2);
    assertThat(lost).hasSize(2);

    List<OnlyThere> there = sync.onlyThere(RUN);
    assertThat(there).hasSize(1);
    OnlyThere step = there.get(0);
    assertThat(step.state()).isEqualTo(step(2).state());
    assertThat(step.step()).isEqualTo(step(2));
    assertThat(step.backups())
        .extracting(BackupRecord::content)
        .containsExactlyInAnyOrderElementsOf(lost.stream().map(BackupRecord::content).toList());

    OffsiteRecovery bringing = new OffsiteRecovery(disk, publisher, this);
    for (BackupRecord backup : step.backups()) {
      bringing.bringOne(store, BEGIN, recovery, project, backup.path());
    }
    assertThat(sync.onlyThere(RUN)).isEmpty();
    for (SetRecord.Member member : step(2).members()) {
      assertThat(recovery.history().captures(RUN))
          .anySatisfy(
              b -> {
                assertThat(b.state()).isEqualTo(member.unit());
                assertThat(recovery.history().isFaulty(b.path())).isFalse();
                assertThat(new String(bytes(b), StandardCharsets.UTF_8))
                    .isIn("flux 1", "T 2", "R 2");
              });
    }
  }

  @Test
  void aStepOfWhichTheStoreLacksAFileIsNotOffered() throws IOException {
    List<BackupRecord> lost = lose(2);
    assertThat(sync.onlyThere(RUN)).hasSize(1);
    String object =
        copiesOf(RUN).stream()
            .filter(c -> c.content().equals(lost.get(0).content()))
            .findFirst()
            .orElseThrow()
            .object();
    store.objects.remove(BEGIN + object);
    wait(Duration.ofDays(31));
    rounds(1);
    assertThat(sync.onlyThere(RUN)).isEmpty();
  }
}
