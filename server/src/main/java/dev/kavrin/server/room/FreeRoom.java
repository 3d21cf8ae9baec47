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
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/**
 * How the free room of each disk changes, whoever writes there: looked at every few minutes, for a
 * day back, what was seen before a restart included.
 */
@Component
public class FreeRoom {
  private static final Logger LOG = LoggerFactory.getLogger(FreeRoom.class);

  private final Engine engine;
  private final Disk disk;
  private final FreeRoomRows rows;
  private final InstantSource clock;
  private boolean recalled;
  private final Map<String, FreeHistory> seen = new ConcurrentHashMap<>();
  private final Map<String, Path> folders = new ConcurrentHashMap<>();

  FreeRoom(Engine engine, FreeRoomRows rows, InstantSource clock) {
    this.engine = engine;
    this.disk = engine.disk();
    this.rows = rows;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 300_000, initialDelay = 20_000)
  void look() {
    Map<String, Looked> now = new HashMap<>();
    for (Kept kept : engine.projects()) {
      kept.folders().all().forEach(f -> look(f.root(), now));
      look(Path.of(kept.project().folder()), now);
    }
    try {
      recall(now);
      remember(now);
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Free room waits for the records: {}", away.getMessage());
    }
    now.forEach(
        (device, looked) -> {
          folders.put(device, looked.folder());
          history(device).note(clock.instant(), looked.free());
        });
  }

  private record Looked(Path folder, long free, long capacity) {}

  private FreeHistory history(String device) {
    return seen.computeIfAbsent(device, d -> new FreeHistory());
  }

  /** Once after the start: of disks that are the same still. */
  private void recall(Map<String, Looked> now) {
    if (recalled) {
      return;
    }
    Instant before = clock.instant();
    Set<String> begun = Set.copyOf(seen.keySet());
    for (FreeRoomRow row : rows.findBySeenAfterOrderBySeen(before.minus(FreeHistory.BACK))) {
      Looked looked = now.get(row.device);
      boolean same = looked != null && looked.capacity() == row.capacity;
      if (same && !begun.contains(row.device) && row.seen.isBefore(before)) {
        history(row.device).note(row.seen, row.free);
      }
    }
    recalled = true;
  }

  private void remember(Map<String, Looked> now) {
    now.forEach(
        (device, looked) -> {
          FreeRoomRow row = new FreeRoomRow();
          row.device = device;
          row.capacity = looked.capacity();
          row.seen = clock.instant();
          row.free = looked.free();
          rows.save(row);
        });
    rows.deleteBySeenBefore(clock.instant().minus(FreeHistory.BACK));
  }

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
      now.put(disk.device(folder), new Looked(folder, disk.room(folder), disk.capacity(folder)));
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
