package dev.kavrin.core.plan;

import dev.kavrin.core.keep.ProgramCounts;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import java.time.Duration;

/**
 * What keeping comes to that which programs write aside of their own accord.
 *
 * @param room bytes in all backup folders once as many are there as stay
 * @param loadPerHour bytes written an hour of steady work
 */
public record ProgramFigures(long room, long loadPerHour, Why why) {
  private static final Duration HOUR = Duration.ofHours(1);

  static ProgramFigures of(ProgramCounts counts, PlanInputs in) {
    String source = "common practice, no source";
    String formula = "(P + H) × size × documents × folders";
    Duration apart = in.programWrites();
    if (!counts.on() || apart == null || apart.isZero()) {
      String none = counts.on() ? "nothing tells how often the program writes" : "none are kept";
      return new ProgramFigures(0, 0, new Why(formula, none, source));
    }
    Duration hours = apart.compareTo(HOUR) > 0 ? apart : HOUR;
    long each = Math.multiplyExact(in.size(), (long) in.documents() * in.places());
    long states = counts.newest() + counts.hourly().dividedBy(hours);
    return new ProgramFigures(
        Math.multiplyExact(states, each),
        Math.round((double) HOUR.toNanos() / apart.toNanos() * each),
        new Why(
            formula,
            states
                + " × "
                + Sizes.words(in.size())
                + " × "
                + in.documents()
                + " × "
                + in.places()
                + ", one every "
                + Words.age(apart),
            source));
  }

  /** The same, with no more room than that. */
  ProgramFigures within(long limit) {
    return room <= limit ? this : new ProgramFigures(limit, loadPerHour, why);
  }
}
