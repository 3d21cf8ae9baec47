package dev.kavrin.server.room;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.plan.FreeHistory;
import dev.kavrin.core.plan.Growth;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * How the free room of each disk changes, whoever writes there: looked at every few minutes since
 * the start, for a day back.
 */
@Component
public class FreeRoom {
  private final Engine engine;
  private final Disk disk;
  private final InstantSource clock;
  private final Map<String, FreeHistory> seen = new ConcurrentHashMap<>();
  private final Map<String, Path> folders = new ConcurrentHashMap<>();

  FreeRoom(Engine engine, InstantSource clock) {
    this.engine = engine;
    this.disk = engine.disk();
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 300_000, initialDelay = 20_000)
  void look() {
    Map<String, Looked> now = new HashMap<>();
    for (Kept kept : engine.projects()) {
      kept.folders().all().forEach(f -> look(f.root(), now));
      look(Path.of(kept.project().folder()), now);
    }
    now.forEach(
        (device, looked) -> {
          folders.put(device, looked.folder());
          seen.computeIfAbsent(device, d -> new FreeHistory()).note(clock.instant(), looked.free());
        });
  }

  private record Looked(Path folder, long free) {}

  /** A folder on each disk that is nearly full, as of the last look. */
  public Map<Path, FreeHistory.Filling> filling() {
    Map<Path, FreeHistory.Filling> filling = new HashMap<>();
    seen.forEach(
        (device, history) ->
            history.filling(clock.instant()).ifPresent(f -> filling.put(folders.get(device), f)));
    return filling;
  }

  private void look(Path folder, Map<String, Looked> now) {
    try {
      now.put(disk.device(folder), new Looked(folder, disk.room(folder)));
    } catch (IOException away) {
      // A folder that is away neither fills nor empties.
    }
  }

  /** What the disk lost an hour; empty before an hour was seen. */
  Optional<Long> perHour(String device) {
    return growth(device).map(g -> g.bytes() * 3600 / g.time().toSeconds());
  }

  /** When it is full if that goes on; empty if not within 30 days, or nothing was seen yet. */
  Optional<Instant> fullAt(String device, long free) {
    return growth(device).flatMap(g -> g.usedUp(free, clock.instant()));
  }

  /** The same for the disk of a folder. */
  public Optional<Instant> fullAt(Path folder, long free) {
    try {
      return fullAt(disk.device(folder), free);
    } catch (IOException away) {
      return Optional.empty();
    }
  }

  private Optional<Growth> growth(String device) {
    return Optional.ofNullable(seen.get(device)).flatMap(FreeHistory::growth);
  }
}
