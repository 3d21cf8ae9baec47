package dev.kavrin.core.keep;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Collections;
import java.util.List;

/**
 * How many states stay, as a person sets it. All parts add up; zero switches a part off.
 *
 * @param newest that many last ones; the protected one stays in any case
 * @param hourly the first of each hour stays that long
 * @param daily the first of each day stays that long
 * @param weekly the first of each week stays that long
 * @param ring slots of the exponential ring
 * @param room bytes that the copies of one document may take, dropped ones that wait in the bin
 *     included; zero for no limit
 */
public record Counts(
    int newest, Duration hourly, Duration daily, Duration weekly, int ring, long room) {
  private static final int MOST = 100_000;
  private static final int MOST_SLOTS = 40;
  private static final Duration LONGEST = Duration.ofDays(3650);

  public Counts {
    if (newest < 0 || newest > MOST) {
      throw new IllegalArgumentException(
          "Copies to keep: " + newest + " is not within 0 to " + MOST);
    }
    if (ring < 0 || ring > MOST_SLOTS) {
      throw new IllegalArgumentException(
          "Slots of the ring: " + ring + " is not within 0 to " + MOST_SLOTS);
    }
    if (room < 0) {
      throw new IllegalArgumentException("Room limit: " + room + " bytes is negative");
    }
    span("hourly", hourly);
    span("daily", daily);
    span("weekly", weekly);
  }

  private static void span(String what, Duration span) {
    if (span.isNegative() || span.compareTo(LONGEST) > 0) {
      throw new IllegalArgumentException(
          what + " span: " + span.toDays() + " days is not within 0 to " + LONGEST.toDays());
    }
  }

  /** The newest alone. */
  public static Counts newest(int n) {
    return new Counts(n, Duration.ZERO, Duration.ZERO, Duration.ZERO, 0, 0);
  }

  /**
   * The rule these counts come to, the room limit included.
   *
   * @param zone in which hours, days and weeks begin
   * @param incidents when incidents were noticed
   */
  public KeepRule rule(Instant now, ZoneId zone, List<Instant> incidents) {
    return within(unlimited(now, zone, incidents));
  }

  /**
   * The same for a document with steps of runs, and with copies of what its program wrote aside;
   * the room holds for all of it.
   */
  public KeepRule rule(
      Instant now,
      ZoneId zone,
      List<Instant> incidents,
      RunCounts runs,
      List<KeepSet> sets,
      ProgramCounts programs) {
    KeepRule plain = programs.beside(unlimited(now, zone, incidents), now, zone);
    if (sets.isEmpty()) {
      return within(plain);
    }
    KeepRule all = within(runs.rule(sets, plain));
    return states -> RunCounts.protecting(sets, all.keeps(states));
  }

  private KeepRule unlimited(Instant now, ZoneId zone, List<Instant> incidents) {
    return KeepRules.any(
        List.of(
            KeepRules.newest(newest),
            KeepRules.firstOfEach(KeepRules.Period.HOUR, hourly, now, zone),
            KeepRules.firstOfEach(KeepRules.Period.DAY, daily, now, zone),
            KeepRules.firstOfEach(KeepRules.Period.WEEK, weekly, now, zone),
            KeepRules.ring(ring),
            KeepRules.firstAfter(incidents),
            KeepRules.marked()));
  }

  private KeepRule within(KeepRule all) {
    return room == 0 ? all : new RoomLimit(all, BinLimit.keptWithin(room));
  }

  /** The most states these counts keep of steady work, marks left out. */
  public long most() {
    return newest + hourly.toHours() + daily.toDays() + weekly.toDays() / 7 + ring;
  }

  /** How far back steady work is reached for certain, one copy every {@code interval}. */
  public Duration surelyBack(Duration interval) {
    return longest(
        interval.multipliedBy(Math.max(0, newest - 1)),
        ring < 2 ? Duration.ZERO : interval.multipliedBy(1L << (ring - 2)));
  }

  /** How far back it is reached at most. */
  public Duration atMostBack(Duration interval) {
    return longest(
        interval.multipliedBy(newest),
        ring < 2 ? Duration.ZERO : interval.multipliedBy(3L << (ring - 2)));
  }

  /** The longest of the hourly, daily and weekly spans. */
  public Duration longestSpan() {
    return Collections.max(List.of(hourly, daily, weekly));
  }

  private Duration longest(Duration byCount, Duration byRing) {
    return Collections.max(List.of(byCount, byRing, longestSpan()));
  }
}
