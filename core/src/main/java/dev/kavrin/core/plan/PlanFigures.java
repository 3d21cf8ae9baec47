package dev.kavrin.core.plan;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * What a plan comes to (HEART §2). Durations null where nothing tells.
 *
 * @param programDies worst loss if the program dies: W
 * @param fileLost worst loss if the file is lost: W + T + p + d
 * @param meanFileLost the same on average, the crash falling anywhere: W/2 + T/2 + p/2 + d
 * @param reachFrom shortest way back the kept copies reach: (N − 1)·T, or what spans and ring add
 * @param reachTo longest: N·T, likewise
 * @param footprint bytes in all recovery folders once N are there
 * @param loadPerHour bytes written an hour of steady work
 * @param warnings what a person should hear before choosing this
 */
public record PlanFigures(
    @Nullable Duration programDies,
    Why programDiesWhy,
    @Nullable Duration fileLost,
    @Nullable Duration meanFileLost,
    Why fileLostWhy,
    Duration reachFrom,
    Duration reachTo,
    Why reachWhy,
    long footprint,
    Why footprintWhy,
    long loadPerHour,
    Why loadWhy,
    List<String> warnings) {

  private static final String OWN = "HEART: exposure, by definition of the cadence";
  private static final String PRACTICE = "common practice, no source";

  public static PlanFigures of(Plan plan, PlanInputs in) {
    Duration t = plan.interval();
    Duration d = in.copyTime() == null ? Duration.ZERO : in.copyTime();
    Duration w = in.programWrites();
    boolean known = w != null && plan.timed();
    Duration worst = known ? w.plus(t).plus(plan.hardLimit()).plus(d) : null;
    Duration mean =
        known
            ? w.dividedBy(2).plus(t.dividedBy(2)).plus(plan.hardLimit().dividedBy(2)).plus(d)
            : null;
    Counts counts = plan.keep();
    long states = Math.max(counts.most(), 1);
    long all = Math.multiplyExact(in.size(), states);
    long perDocument = counts.room() == 0 ? all : Math.min(all, Math.max(counts.room(), in.size()));
    long footprint = Math.multiplyExact(perDocument, (long) in.documents() * in.places());
    double copies = plan.timed() ? 3600.0 / t.toSeconds() : 0;
    long load = Math.round(copies * in.size() * in.documents() * in.places());
    return new PlanFigures(
        w,
        new Why(
            "W",
            w == null
                ? "W is unknown: nothing tells how often the program writes"
                : "W = " + Words.age(w),
            OWN),
        worst,
        mean,
        fileLostWhy(plan, w, d, worst),
        plan.timed() ? counts.surelyBack(t) : Duration.ZERO,
        plan.timed() ? counts.atMostBack(t) : Duration.ZERO,
        reachWhy(counts, t),
        footprint,
        new Why(
            "N × size × documents × places",
            states
                + " × "
                + Sizes.words(in.size())
                + " × "
                + in.documents()
                + " × "
                + in.places()
                + (counts.most() == 0 ? " (the protected one stays)" : "")
                + (perDocument < all
                    ? ", held to " + Sizes.words(counts.room()) + " a document"
                    : ""),
            PRACTICE),
        load,
        new Why(
            "(1 h / T) × size × documents × places",
            plan.timed()
                ? String.format(
                    java.util.Locale.ROOT,
                    "%.1f × %s × %d × %d",
                    copies,
                    Sizes.words(in.size()),
                    in.documents(),
                    in.places())
                : "no timed copies",
            PRACTICE),
        warnings(plan, worst));
  }

  private static Why reachWhy(Counts counts, Duration t) {
    String n = counts.newest() + " × " + Words.age(t);
    List<String> formula = new ArrayList<>(List.of("(N − 1)·T to N·T"));
    List<String> filled =
        new ArrayList<>(List.of("(" + counts.newest() + " − 1) × " + Words.age(t) + " to " + n));
    if (counts.ring() >= 2) {
      formula.add("ring of R slots 2^(R − 2)·T to 3·2^(R − 2)·T");
      filled.add("R = " + counts.ring());
    }
    if (counts.longestSpan().compareTo(Duration.ZERO) > 0) {
      formula.add("longest span as set");
      filled.add(Words.age(counts.longestSpan()));
    }
    return new Why(String.join("; ", formula), String.join("; ", filled), PRACTICE);
  }

  private static Why fileLostWhy(Plan plan, Duration w, Duration d, Duration worst) {
    String filled =
        (w == null ? "W unknown" : Words.age(w))
            + " + "
            + Words.age(plan.interval())
            + " + "
            + Words.age(plan.hardLimit())
            + " + "
            + Words.age(d)
            + (worst == null ? "" : " = " + Words.age(worst));
    return new Why("W + T + p + d", filled, OWN);
  }

  private static List<String> warnings(Plan plan, Duration worst) {
    List<String> warnings = new ArrayList<>();
    if (!plan.timed()) {
      warnings.add("No timed copies: only what you copy by hand is safe.");
    }
    if (plan.keep().most() == 0) {
      warnings.add("Zero copies means no safety: only the newest intact one stays.");
    }
    if (plan.keep().most() == 1) {
      warnings.add("Only the latest is kept: if that copy is the bad one, there is no other.");
    }
    Duration least = worst == null ? plan.interval() : worst;
    if (plan.timed() && least.compareTo(plan.accepted()) > 0) {
      warnings.add(
          "You may lose up to "
              + Words.age(least)
              + ", more than the "
              + Words.age(plan.accepted())
              + " you accept.");
    }
    return warnings;
  }
}
