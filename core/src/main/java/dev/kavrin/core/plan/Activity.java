package dev.kavrin.core.plan;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;

/**
 * What happened to the documents under one plan.
 *
 * @param writes by document, in order
 * @param crashes in order
 * @param watched spans in which somebody watched, in order and apart; what lies outside is unknown
 * @param worked working time within them
 * @param zone of the people, for hours and days
 * @param looks how often files are looked at
 * @param runs those of them that are runs, each write a step
 */
public record Activity(
    Map<UUID, List<Write>> writes,
    List<Crash> crashes,
    List<Worked.Sitting> watched,
    Worked worked,
    ZoneId zone,
    Looks looks,
    Set<UUID> runs) {
  private static final Duration AT_ONCE = Duration.ofMinutes(2);

  /** The file stood anew with so many bytes. */
  public record Write(Instant at, long size) {}

  /**
   * A program died.
   *
   * @param lastAlive last moment it was known to work
   * @param noticed when its end was noticed
   */
  public record Crash(Instant lastAlive, Instant noticed, List<UUID> documents) {}

  /**
   * Moments at which files are looked at.
   *
   * @param any of them
   * @param last none is later
   */
  public record Looks(Instant any, Duration every, Instant last) {
    /** The first look at or after a moment. */
    Instant from(Instant moment) {
      long step = every.toNanos();
      long since = Duration.between(any, moment).toNanos();
      return any.plusNanos(Math.multiplyExact(-Math.floorDiv(-since, step), step));
    }
  }

  /** A death noticed at once was watched, whatever the spans say. */
  public boolean isWatched(Crash crash) {
    Instant at = crash.lastAlive();
    return Duration.between(at, crash.noticed()).compareTo(AT_ONCE) <= 0
        || watched.stream().anyMatch(s -> !at.isBefore(s.from()) && !at.isAfter(s.to()));
  }

  /** How often its programs died in the time worked. */
  public CrashRate rate() {
    return CrashRate.of((int) crashes.stream().filter(this::isWatched).count(), worked.total());
  }
}
