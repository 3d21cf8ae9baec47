package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Pauses;
import dev.kavrin.core.plan.Plan;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Cadence lived through: real files, a simulated clock that jumps, a program that is busy. */
class CadenceLifeTest extends EngineFixture {
  private static final Duration TICK = Duration.ofSeconds(15);
  private static final Pauses WHILE_IT_RUNS =
      new Pauses("modeller", "", false, Duration.ofMinutes(25));
  private static final Pauses WITHOUT_LIMIT = new Pauses("modeller", "", false, Duration.ZERO);

  private static Plan every(int minutes) {
    return Plan.every(Duration.ofMinutes(minutes), Counts.newest(1000), Duration.ofMinutes(15));
  }

  static List<Plan> plans() {
    return List.of(
        every(10),
        every(0).onEverySave(),
        every(7).with(WHILE_IT_RUNS),
        every(3).with(WITHOUT_LIMIT),
        every(30).onEverySave().with(WHILE_IT_RUNS));
  }

  /** What the rules promise for the change that waits, worked out apart from the engine. */
  private final class Promise {
    private final Plan plan;
    private Duration changed;
    private Duration released = Duration.ZERO;
    private int copies;
    private int saves;

    Promise(Plan plan) {
      this.plan = plan;
    }

    void saved() {
      saves++;
      changed = changed == null ? running : changed;
    }

    void check() throws IOException {
      int now = captures().size();
      assertThat(now).as("no copy without a change").isLessThanOrEqualTo(saves);
      boolean forbidden = programRuns && plan.handsOff().applies();
      if (now > copies && changed != null) {
        if (forbidden && plan.handsOff().limit().isZero()) {
          throw new AssertionError("A copy was made while hands were to be off");
        }
        byte[] copy = Files.readAllBytes(recovery.absolute(captures().get(now - 1).path()));
        assertThat(copy).isEqualTo(Files.readAllBytes(live));
        changed = null;
      }
      copies = now;
      if (changed != null) {
        withinTheGap(forbidden);
      }
    }

    private void withinTheGap(boolean forbidden) {
      Duration due = changed.plus(plan.dueAfter().orElseThrow());
      if (forbidden && plan.handsOff().limit().isZero()) {
        return;
      }
      Duration from = forbidden ? due.plus(plan.handsOff().limit()) : later(due, released);
      assertThat(running)
          .as("no gap longer than the rules allow")
          .isLessThanOrEqualTo(from.plus(plan.hardLimit()).plus(TICK.multipliedBy(2)));
    }

    private Duration later(Duration a, Duration b) {
      return a.compareTo(b) > 0 ? a : b;
    }
  }

  @ParameterizedTest
  @MethodSource("plans")
  void noGapIsTooLongAndNoCopyIsMadeWithoutAChangeOrWhileHandsAreOff(
      Plan plan, @TempDir Path folder) throws IOException {
    int lives = Boolean.getBoolean("kavrin.full") ? 40 : 3;
    for (int life = 0; life < lives; life++) {
      root = Files.createDirectories(folder.resolve("life-" + life));
      programRuns = false;
      start(plan, "keep");
      live(plan, new Random(life), 120);
    }
  }

  private void live(Plan plan, Random random, int events) throws IOException {
    Promise promise = new Promise(plan);
    for (int n = 1; n <= events; n++) {
      switch (random.nextInt(6)) {
        case 0, 1 -> {
          wait(Duration.ofMillis(1 + random.nextInt(900)));
          write(live, model(n));
          promise.saved();
          watch.tick();
        }
        case 2 -> {
          programRuns = !programRuns;
          promise.released = programRuns ? promise.released : running;
        }
        case 3 -> now = now.plus(Duration.ofMinutes(random.nextInt(121) - 60L));
        default -> {
          for (int ticks = random.nextInt(60); ticks >= 0; ticks--) {
            wait(TICK);
            watch.tick();
            promise.check();
          }
        }
      }
    }
  }

  @Test
  void afterMoreThanOneIntervalTheCopyHoldsTheLastChange() throws IOException {
    for (int n = 1; n <= 5; n++) {
      write(live, model(n));
      pass(Duration.ofMinutes(3));
    }
    pass(Duration.ofMinutes(11));
    BackupRecord last = captures().get(captures().size() - 1);
    assertThat(Files.readAllBytes(recovery.absolute(last.path()))).isEqualTo(model(5));
  }

  @Test
  void aSignFileAndGrowthHoldACopyBackAndSayWhy() throws IOException {
    change(every(5).with(new Pauses("", "*.running", true, Duration.ZERO)));
    write(live, model(1));
    watch.tick();
    Path sign = live.resolveSibling("heat.running");
    Files.writeString(sign, "");
    Instant begun = now.plus(TICK);
    pass(Duration.ofHours(2));
    assertThat(captures()).isEmpty();
    assertThat(watch.status().get(0).heldBy()).isEqualTo("heat.running stands");
    assertThat(watch.status().get(0).heldSince()).isEqualTo(begun);
    Files.delete(sign);
    pass(TICK);
    assertThat(captures()).hasSize(1);
    for (int n = 0; n < 60; n++) {
      Files.write(live, new byte[1000], StandardOpenOption.APPEND);
      pass(TICK);
    }
    assertThat(captures()).hasSize(1);
    assertThat(watch.status().get(0).heldBy()).isEqualTo("it is growing");
    write(live, model(2));
    pass(Duration.ofSeconds(30));
    assertThat(captures()).as("it rests: made up for at once").hasSize(2);
  }

  @Test
  void aDocumentMayBeCopiedAndKeptByAPlanOfItsOwn() throws IOException {
    UUID other = new UUID(7, 7);
    recoveries.record(new JournalEntry.DocumentSet(now, other, project.id(), "carriage-03.glb"));
    watch.watch(other, "carriage-03.glb");
    project = project.except(other, every(60));
    watch.change(project);
    for (int n = 1; n <= 6; n++) {
      write(live, model(n));
      write(live.resolveSibling("carriage-03.glb"), model(n));
      pass(Duration.ofMinutes(12));
    }
    assertThat(captures()).extracting(BackupRecord::sequence).containsExactly(4L, 5L, 6L);
    assertThat(recovery.history().captures(other)).hasSize(1);
    project = project.except(other, null);
    watch.change(project);
    pass(Duration.ofMinutes(12));
    assertThat(recovery.history().captures(other)).hasSize(2);
  }

  @Test
  void theNextWriteIsTakenAtOnceAndOnlyThat() throws IOException {
    change(every(60).with(WITHOUT_LIMIT));
    programRuns = true;
    write(live, model(1));
    watch.tick();
    watch.awaitNextWrite(DOCUMENT, "before the bolts");
    pass(Duration.ofMinutes(5));
    assertThat(captures()).isEmpty();
    assertThat(watch.status().get(0).awaited()).isTrue();
    write(live, model(2));
    pass(Duration.ofSeconds(30));
    assertThat(captures())
        .singleElement()
        .satisfies(
            c -> {
              assertThat(c.cause()).isEqualTo("next write");
              assertThat(c.note()).isEqualTo("before the bolts");
            });
    write(live, model(3));
    pass(Duration.ofMinutes(5));
    assertThat(captures()).hasSize(1);
    watch.awaitNextWrite(DOCUMENT, null);
    watch.stopAwaiting(DOCUMENT);
    write(live, model(4));
    pass(Duration.ofMinutes(5));
    assertThat(captures()).hasSize(1);
  }
}
