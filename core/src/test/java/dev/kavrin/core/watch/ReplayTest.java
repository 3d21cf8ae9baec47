package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.Replay;
import dev.kavrin.core.plan.Worked;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** Replaying a plan comes to the same as really running it, on real files. */
class ReplayTest extends EngineFixture {
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");
  private static final int HISTORIES = FULL ? 200 : 20;
  private static final int SAVES = FULL ? 60 : 30;
  private static final Duration LOOK = Duration.ofSeconds(15);

  private static Plan random(Random random) {
    int[] minutes = {0, 1, 3, 7, 20};
    Counts counts =
        new Counts(
            random.nextInt(6),
            Duration.ofHours(random.nextInt(4)),
            Duration.ZERO,
            Duration.ZERO,
            random.nextBoolean() ? 0 : random.nextInt(5),
            random.nextInt(3) == 0 ? 3_000 : 0);
    Plan plan =
        Plan.every(
            Duration.ofMinutes(minutes[random.nextInt(minutes.length)]),
            counts,
            Duration.ofMinutes(15));
    return random.nextInt(4) == 0 ? plan.onEverySave() : plan;
  }

  /** What an incident found, as the engine stood then. */
  private record Found(Activity.Crash crash, Instant newest) {}

  @Test
  void replayIsWhatReallyRunningThePlanComesTo() throws IOException {
    for (int seed = 0; seed < HISTORIES; seed++) {
      Random random = new Random(seed);
      Plan plan = random(random);
      start(plan, "keep");
      Instant begin = now;
      List<Activity.Write> writes = new ArrayList<>();
      List<Found> found = new ArrayList<>();
      int saves = SAVES / 3 + random.nextInt(2 * SAVES / 3);
      for (int i = 0; i < saves; i++) {
        byte[] model = model(i + 1);
        Instant look = now;
        now = look.plusSeconds(1);
        write(live, model);
        writes.add(new Activity.Write(now, model.length));
        now = look;
        pass(LOOK.multipliedBy(1 + random.nextInt(random.nextBoolean() ? 4 : 60)));
        if (random.nextInt(12) == 0) {
          found.add(crash());
        }
      }
      Activity activity =
          new Activity(
              Map.of(DOCUMENT, writes),
              found.stream().map(Found::crash).toList(),
              List.of(),
              Worked.of(writes.stream().map(Activity.Write::at).toList(), Duration.ZERO),
              ZoneId.of("UTC"),
              new Activity.Looks(begin, LOOK, now),
              Set.of());
      Replay replay = Replay.of(plan, activity, 1);
      assertThat(replay.losses())
          .as("newest copy at each crash, history %s", seed)
          .extracting(Replay.Loss::work)
          .isEqualTo(found.stream().map(Found::newest).toList());
      assertThat(replay.losses())
          .extracting(Replay.Loss::lost)
          .isEqualTo(
              found.stream()
                  .map(
                      f ->
                          activity
                              .worked()
                              .between(
                                  f.newest() == null ? writes.get(0).at() : f.newest(),
                                  f.crash().lastAlive()))
                  .toList());
      assertThat(replay.kept().get(DOCUMENT))
          .as("states kept by %s in history %s", plan, seed)
          .extracting(KeepState::workTime)
          .containsExactlyElementsOf(
              new TreeSet<>(captures().stream().map(BackupRecord::workTo).toList()));
      assertThat(replay.copies()).isEqualTo((int) recovery.history().lastSequence(DOCUMENT));
    }
  }

  private Found crash() throws IOException {
    JournalEntry.IncidentSet incident =
        new JournalEntry.IncidentSet(
            now,
            new java.util.UUID(7, now.toEpochMilli()),
            project.id(),
            List.of(DOCUMENT),
            now,
            now,
            "crash",
            List.of(),
            true);
    recoveries.record(incident);
    Instant newest =
        captures().stream().map(BackupRecord::workTo).max(Instant::compareTo).orElse(null);
    return new Found(new Activity.Crash(now, now, List.of(DOCUMENT)), newest);
  }
}
