package dev.kavrin.core.keep;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;

/** The rules a plan is put together from. */
public final class KeepRules {
  static final String PROTECTED = "newest intact: protected";

  private KeepRules() {}

  /** The {@code n} newest by birth. */
  public static KeepRule newest(int n) {
    if (n < 0) {
      throw new IllegalArgumentException("Cannot keep " + n + " copies");
    }
    String why = "newest " + n;
    return states -> {
      Map<String, String> kept = new HashMap<>();
      states
          .subList(Math.max(0, states.size() - n), states.size())
          .forEach(s -> kept.put(s.id(), why));
      return kept;
    };
  }

  /** What a period starts with, in the zone of the people. */
  public enum Period {
    HOUR,
    DAY,
    WEEK;

    /** Where the period that holds {@code time} begins. */
    private ZonedDateTime begin(ZonedDateTime time) {
      return switch (this) {
        case HOUR -> time.truncatedTo(ChronoUnit.HOURS);
        case DAY -> time.truncatedTo(ChronoUnit.DAYS);
        case WEEK ->
            time.truncatedTo(ChronoUnit.DAYS)
                .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
      };
    }

    private ZonedDateTime end(ZonedDateTime time) {
      return switch (this) {
        case HOUR -> begin(time).plusHours(1);
        case DAY -> begin(time).plusDays(1);
        case WEEK -> begin(time).plusWeeks(1);
      };
    }
  }

  /**
   * The first state of each period that lies within {@code span} before {@code now}, with any part
   * of it. So the first stays until its whole period is over, and no later one becomes the first.
   */
  public static KeepRule firstOfEach(Period period, Duration span, Instant now, ZoneId zone) {
    String why = "first of the " + period.name().toLowerCase(java.util.Locale.ROOT);
    return states -> {
      Map<String, String> kept = new HashMap<>();
      Instant from = period.begin(now.minus(span).atZone(zone)).toInstant();
      Instant nextPeriod = from;
      for (KeepState s : span.isZero() ? List.<KeepState>of() : sortedByWork(states)) {
        if (!s.workTime().isBefore(nextPeriod)) {
          kept.put(s.id(), why);
          nextPeriod = period.end(s.workTime().atZone(zone)).toInstant();
        }
      }
      return kept;
    };
  }

  /** The last state of each hour that lies within {@code span} before {@code now}. */
  public static KeepRule lastOfEachHour(Duration span, Instant now, ZoneId zone) {
    return states -> {
      Map<Instant, KeepState> last = new HashMap<>();
      Instant from = Period.HOUR.begin(now.minus(span).atZone(zone)).toInstant();
      for (KeepState s : span.isZero() ? List.<KeepState>of() : sortedByWork(states)) {
        if (!s.workTime().isBefore(from)) {
          last.put(Period.HOUR.begin(s.workTime().atZone(zone)).toInstant(), s);
        }
      }
      Map<String, String> kept = new HashMap<>();
      last.values().forEach(s -> kept.put(s.id(), "last of the hour"));
      return kept;
    };
  }

  /** One rule for some states, another for the others, of which the newest whole one stays. */
  static KeepRule apart(Predicate<KeepState> some, KeepRule theirs, KeepRule others) {
    return states -> {
      Map<String, String> kept = new HashMap<>(theirs.keeps(states.stream().filter(some).toList()));
      kept.putAll(
          withProtection(others).keeps(states.stream().filter(Predicate.not(some)).toList()));
      return kept;
    };
  }

  private static List<KeepState> sortedByWork(List<KeepState> states) {
    return states.stream()
        .sorted(Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth))
        .toList();
  }

  /**
   * The newest of each slot of an exponential ring. Birth {@code b} falls into the slot of the
   * ruler sequence (OEIS A001511, from memory), capped at {@code slots}: every second state into
   * the first, every fourth into the second, and so on. With one state per interval the kept ones
   * reach back at least {@code 2^(slots − 2)} intervals.
   */
  public static KeepRule ring(int slots) {
    return states -> {
      Map<Integer, KeepState> newest = new HashMap<>();
      if (slots > 0) {
        states.forEach(
            s ->
                newest.merge(
                    Math.min(ruler(s.birth()), slots), s, (a, b) -> a.birth() > b.birth() ? a : b));
      }
      Map<String, String> kept = new HashMap<>();
      newest.forEach((slot, s) -> kept.put(s.id(), "slot " + slot + " of the ring"));
      return kept;
    };
  }

  /** How often two divides {@code 2n}: 1, 2, 1, 3, 1, 2, 1, 4 … */
  static int ruler(long n) {
    return Long.numberOfTrailingZeros(n) + 1;
  }

  /** The first state whose work was done after each of the moments. */
  public static KeepRule firstAfter(List<Instant> incidents) {
    return states -> {
      Map<String, String> kept = new HashMap<>();
      List<Instant> moments = incidents.stream().sorted().toList();
      int passed = 0;
      for (KeepState s : moments.isEmpty() ? List.<KeepState>of() : sortedByWork(states)) {
        int before = passed;
        while (passed < moments.size() && moments.get(passed).isBefore(s.workTime())) {
          passed++;
        }
        if (passed > before) {
          kept.put(s.id(), "first after a crash");
        }
      }
      return kept;
    };
  }

  /** States that carry a mark, for the mark's reason. */
  public static KeepRule marked() {
    return states -> {
      Map<String, String> kept = new HashMap<>();
      states.stream()
          .filter(s -> !s.marks().isEmpty())
          .forEach(s -> kept.put(s.id(), String.join(", ", new java.util.TreeSet<>(s.marks()))));
      return kept;
    };
  }

  /** All that any of the rules keeps, with every reason. */
  public static KeepRule any(List<KeepRule> rules) {
    return states -> {
      Map<String, String> kept = new HashMap<>();
      for (KeepRule rule : rules) {
        rule.keeps(states).forEach((id, why) -> kept.merge(id, why, (a, b) -> a + ", " + b));
      }
      return kept;
    };
  }

  /**
   * The one rule no plan can switch off: whatever the rule says, the newest state with a whole
   * capture in the folder stays.
   */
  public static KeepRule withProtection(KeepRule rule) {
    return states -> {
      Map<String, String> kept = rule.keeps(states);
      states.stream()
          .filter(KeepState::protecting)
          .max(Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth))
          .ifPresent(
              s -> kept.merge(s.id(), PROTECTED, (a, b) -> a.contains(b) ? a : b + ", " + a));
      return kept;
    };
  }
}
