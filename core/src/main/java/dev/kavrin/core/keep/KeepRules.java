package dev.kavrin.core.keep;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The rules a plan is put together from. */
public final class KeepRules {
  private KeepRules() {}

  /** The {@code n} newest by birth. */
  public static KeepRule newest(int n) {
    if (n < 0) {
      throw new IllegalArgumentException("Cannot keep " + n + " copies");
    }
    return states -> {
      Map<String, String> kept = new HashMap<>();
      states
          .subList(Math.max(0, states.size() - n), states.size())
          .forEach(s -> kept.put(s.id(), "newest " + n));
      return kept;
    };
  }

  /** What a period starts with, in the zone of the people. */
  public enum Period {
    HOUR,
    DAY,
    WEEK;

    private ZonedDateTime start(ZonedDateTime time) {
      return switch (this) {
        case HOUR -> time.truncatedTo(ChronoUnit.HOURS);
        case DAY -> time.truncatedTo(ChronoUnit.DAYS);
        case WEEK ->
            time.truncatedTo(ChronoUnit.DAYS)
                .with(TemporalAdjusters.previousOrSame(java.time.DayOfWeek.MONDAY));
      };
    }
  }

  /** The first state of each period that began within {@code span} before {@code now}. */
  public static KeepRule firstOfEach(Period period, Duration span, Instant now, ZoneId zone) {
    return states -> {
      Map<String, String> kept = new HashMap<>();
      Set<ZonedDateTime> seen = new HashSet<>();
      states.stream()
          .sorted(Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth))
          .filter(s -> !s.workTime().isBefore(now.minus(span)))
          .filter(s -> seen.add(period.start(s.workTime().atZone(zone))))
          .forEach(
              s ->
                  kept.put(
                      s.id(), "first of the " + period.name().toLowerCase(java.util.Locale.ROOT)));
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
      Map<String, String> kept = new HashMap<>(rule.keeps(states));
      states.stream()
          .filter(KeepState::protecting)
          .max(Comparator.comparing(KeepState::workTime).thenComparing(KeepState::birth))
          .ifPresent(s -> kept.merge(s.id(), "newest intact: protected", (a, b) -> b + ", " + a));
      return kept;
    };
  }
}
