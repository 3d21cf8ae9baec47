package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.keep.BinLimit;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.plan.Activity;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.plan.Replay;
import dev.kavrin.core.plan.Worked;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What is said of the room is what the disk says, the bin included. */
class RoomTest extends EngineFixture {
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");
  private static final int DAYS = FULL ? 30 : 4;
  private static final Duration AT_WORK = Duration.ofHours(FULL ? 8 : 3);

  static Stream<Plan> plans() {
    Duration ten = Duration.ofMinutes(10);
    Duration none = Duration.ZERO;
    Duration accepted = Duration.ofMinutes(30);
    return Stream.of(
        Plan.every(ten, Counts.newest(10), accepted),
        Plan.every(ten, new Counts(5, Duration.ofHours(6), none, none, 0, 0), accepted),
        Plan.every(ten, new Counts(3, none, Duration.ofDays(30), none, 6, 0), accepted),
        Plan.every(ten, new Counts(40, none, none, none, 0, 400_000), accepted),
        Plan.every(ten, Counts.newest(40), accepted).within(400_000),
        Plan.every(Duration.ofMinutes(3), Counts.newest(4), accepted).onEverySave());
  }

  private long onDisk() throws IOException {
    Path own = recovery.root().resolve(FolderMarker.FOLDER);
    try (Stream<Path> all = Files.walk(recovery.root())) {
      return all.filter(Files::isRegularFile)
          .filter(p -> !p.startsWith(own) || p.startsWith(own.resolve("bin")))
          .mapToLong(p -> p.toFile().length())
          .sum();
    }
  }

  @ParameterizedTest
  @MethodSource("plans")
  void theReplayTellsWhatEachDayLeavesOnTheDisk(Plan plan) throws IOException {
    start(plan, "keep");
    Random random = new Random(17);
    List<Activity.Write> writes = new ArrayList<>();
    Map<LocalDate, Long> measured = new LinkedHashMap<>();
    Instant begin = now;
    int triangles = 300;
    for (int day = 0; day < DAYS; day++) {
      for (Instant end = now.plus(AT_WORK); now.isBefore(end); ) {
        triangles += random.nextInt(9) - 2;
        byte[] model = heavy(random, triangles);
        write(live, model);
        writes.add(new Activity.Write(now, model.length));
        pass(Duration.ofSeconds(15L * (1 + random.nextInt(60))));
      }
      pass(plan.interval().plus(plan.hardLimit()));
      keeper.emptyBin();
      measured.put(now.atZone(ZoneOffset.UTC).toLocalDate(), onDisk());
      wait(Duration.between(now, begin.plus(Duration.ofDays(day + 1L))));
    }
    Activity activity =
        new Activity(
            Map.of(DOCUMENT, writes),
            List.of(),
            List.of(),
            Worked.of(writes.stream().map(Activity.Write::at).toList(), Duration.ZERO),
            ZoneId.of("UTC"),
            new Activity.Looks(begin, Duration.ofSeconds(15), now),
            Set.of());

    Replay replay = Replay.of(plan, activity, 1);

    assertThat(replay.days()).hasSize(DAYS);
    for (Replay.Day day : replay.days()) {
      long real = measured.get(day.date());
      assertThat(day.bytes())
          .as("%s by %s", day.date(), plan.keep())
          .isCloseTo(real, within(real / 10));
    }
    if (plan.keep().room() > 0) {
      long most = captures().stream().mapToLong(c -> c.content().length()).max().orElseThrow();
      assertThat(measured.values()).allMatch(b -> b <= plan.keep().room() + most);
    }
  }

  /** A smaller count by mistake, or a clearing out, can be had back for the whole time. */
  @Test
  void whatAPersonHadDroppedIsNotPurgedForItsRoom() throws IOException {
    start(Plan.every(Duration.ofMinutes(10), held(30), Duration.ofMinutes(15)), "keep");
    for (int n = 1; n <= 20; n++) {
      write(live, model(n));
      watch.copyNow(DOCUMENT, null);
      wait(Duration.ofMinutes(20));
    }
    recoveries.record(
        new JournalEntry.ProjectSet(now, "Bram Odell", project.with(project.program(), fewer())));
    change(fewer());
    keeper.apply(project, DOCUMENT);
    wait(Duration.ofDays(13));
    keeper.emptyBin();
    assertThat(recovery.history().bin()).hasSize(18);
    keeper.takeBack(recovery.history().bin().get(0).bin());
    assertThat(captures()).hasSize(3);
    wait(BinLimit.TIME);
    keeper.emptyBin();
    assertThat(recovery.history().bin()).extracting(History.Binned::byHand).isEmpty();
  }

  private static Counts held(int newest) {
    return new Counts(newest, Duration.ZERO, Duration.ZERO, Duration.ZERO, 0, 1_000_000_000);
  }

  private static Plan fewer() {
    return Plan.every(Duration.ofMinutes(10), held(2), Duration.ofMinutes(15));
  }
}
