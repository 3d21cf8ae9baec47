package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.lane.Lanes;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Looking goes on while a copy is under way, and forgets nothing that is written meanwhile. */
class WatchLanesTest extends EngineFixture {
  private final Map<String, Lanes.Work> waiting = new LinkedHashMap<>();
  private final List<Lane> lanes = new ArrayList<>();
  private Runnable meanwhile = () -> {};

  private void watchInLanes() {
    Inspector inspector =
        (file, name) -> {
          Runnable once = meanwhile;
          meanwhile = () -> {};
          once.run();
          return health.inspect(file, name);
        };
    Lanes queued =
        (lane, bytes, what, work) -> {
          lanes.add(lane);
          waiting.putIfAbsent(what, work);
        };
    BackupMaker maker = new BackupMaker(disk, publisher, inspector, recoveries, this);
    watch =
        new Watch(
            disk,
            recoveries,
            maker,
            keeper,
            words -> programRuns,
            FolderHours.Rests.NEVER,
            queued,
            this,
            project);
  }

  private void workOff() throws IOException {
    List<Lanes.Work> all = List.copyOf(waiting.values());
    waiting.clear();
    for (Lanes.Work work : all) {
      work.run();
    }
  }

  private void later(Duration time) {
    now = now.plus(time);
    running = running.plus(time);
    watch.tick();
  }

  @Test
  void whatIsWrittenWhileItIsCopiedIsCopiedNext() throws IOException {
    watchInLanes();
    write(live, model(1));
    watch.tick();
    later(Duration.ofMinutes(11));
    assertThat(captures()).isEmpty();
    assertThat(waiting).hasSize(1);
    assertThat(lanes).containsOnly(Lane.BACKUP);
    meanwhile =
        () -> {
          try {
            now = now.plusSeconds(3);
            running = running.plusSeconds(3);
            write(live, model(2));
            watch.tick();
          } catch (IOException failed) {
            throw new UncheckedIOException(failed);
          }
        };
    workOff();
    assertThat(captures()).hasSize(1);
    assertThat(watch.status().get(0).pendingSince()).isNotNull();
    later(Duration.ofMinutes(11));
    workOff();
    assertThat(captures()).hasSize(2);
    assertThat(Files.readAllBytes(recovery.absolute(captures().get(1).path()))).isEqualTo(model(2));
    assertThat(watch.status().get(0).pendingSince()).isNull();
    later(Duration.ofHours(1));
    assertThat(waiting).isEmpty();
  }

  @Test
  void askingHowThingsStandAndLookingDoNotWaitForACopy() throws IOException {
    watchInLanes();
    write(live, model(1));
    watch.tick();
    later(Duration.ofMinutes(11));
    List<Boolean> seen = new ArrayList<>();
    meanwhile =
        () -> {
          Thread other =
              new Thread(
                  () -> {
                    watch.tick();
                    seen.add(watch.status().get(0).present());
                  });
          other.start();
          try {
            other.join();
          } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
          }
        };
    workOff();
    assertThat(seen).containsExactly(true);
    assertThat(captures()).hasSize(1);
  }
}
