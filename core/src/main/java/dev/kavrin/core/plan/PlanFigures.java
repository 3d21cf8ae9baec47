package dev.kavrin.core.plan;

import dev.kavrin.core.keep.BinLimit;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * What a plan comes to (HEART §2). Durations null where nothing tells.
 *
 * @param programDies worst loss if the program dies: W
 * @param fileLost worst loss if the file is lost: W + T + p + h + d
 * @param meanFileLost the same on average, the crash falling anywhere: (W + T + p + h)/2 + d
 * @param reachFrom shortest way back the kept copies reach: (N − 1)·T, or what spans and ring add
 * @param reachTo longest: N·T, likewise
 * @param footprint bytes kept in all backup folders once N are there
 * @param programs what comes to it by what programs write aside
 * @param bin bytes that dropped copies take besides, at most
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
    ProgramFigures programs,
    long bin,
    long loadPerHour,
    Why loadWhy,
    List<String> warnings) {

  private static final String OWN = "by definition of the cadence, no source";
  private static final String PRACTICE = "common practice, no source";

  public static PlanFigures of(Plan plan, PlanInputs in) {
    Duration t = plan.dueAfter().orElse(Duration.ZERO);
    Duration d = in.copyTime() == null ? Duration.ZERO : in.copyTime();
    Duration w = in.programWrites();
    Duration h = plan.handsOff().longestHold();
    boolean known = w != null && h != null && plan.timed();
    Duration waits = known ? w.plus(t).plus(plan.hardLimit()).plus(h) : null;
    Duration worst = known ? waits.plus(d) : null;
    Duration mean = known ? waits.dividedBy(2).plus(d) : null;
    Duration apart = apart(plan, w);
    Counts counts = plan.keep();
    long states = Math.max(counts.most(), 1);
    long all = room(plan.compacting(), in, states);
    long perDocument =
        counts.room() == 0
            ? all
            : Math.min(all, Math.max(BinLimit.keptWithin(counts.room()), in.size()));
    long each = Math.multiplyExact(perDocument, (long) in.documents() * in.places());
    long footprint = Math.min(each, together(plan, in));
    ProgramFigures programs =
        ProgramFigures.of(plan.programCopies(), in).within(left(plan, footprint, in));
    double copies = apart.isZero() ? 0 : 3600.0 / apart.toSeconds();
    long load = Math.round(copies * in.size() * in.documents() * in.places());
    return new PlanFigures(
        w,
        new Why(
            "W",
            w == null
                ? "W is unknown: nothing tells how often the program writes"
                : "W = " + in.own().words(),
            OWN),
        worst,
        mean,
        fileLostWhy(plan, in, worst),
        plan.timed() ? counts.surelyBack(apart) : Duration.ZERO,
        plan.timed() ? counts.atMostBack(apart) : Duration.ZERO,
        reachWhy(counts, apart),
        footprint,
        footprintWhy(plan, in, states, held(plan, perDocument < all, footprint < each)),
        programs,
        BinLimit.of(footprint + programs.room(), plan.holdsRoom()),
        load,
        loadWhy(plan, in, copies),
        Stream.concat(
                warnings(plan, worst).stream(),
                tooSlow(in, (load + programs.loadPerHour()) / Math.max(1, in.places())))
            .toList());
  }

  /** Of one document; compacted versions count as they were measured, as plain ones before that. */
  private static long room(Compacting compacting, PlanInputs in, long states) {
    long plain = in.compacted() == null ? states : compacting.plainOf(states);
    double share = in.compacted() == null ? 1 : in.compacted();
    return Math.multiplyExact(in.size(), plain) + Math.round(in.size() * share * (states - plain));
  }

  /** What all documents may keep in all folders; one version of each stays in any case. */
  private static long together(Plan plan, PlanInputs in) {
    return plan.projectRoom() == 0
        ? Long.MAX_VALUE
        : Math.max(BinLimit.keptWithin(plan.projectRoom()), in.size() * in.documents())
            * in.places();
  }

  /** What the room limits leave beside the backups of what people save. */
  private static long left(Plan plan, long footprint, PlanInputs in) {
    long room = plan.keep().room();
    long all =
        room == 0 ? Long.MAX_VALUE : BinLimit.keptWithin(room) * in.documents() * in.places();
    return Math.max(0, Math.min(all, together(plan, in)) - footprint);
  }

  /** Which limits hold the room, in words; empty for none. */
  private static String held(Plan plan, boolean each, boolean together) {
    return (each ? ", held to " + Sizes.words(plan.keep().room()) + " a document" : "")
        + (together ? ", held to " + Sizes.words(plan.projectRoom()) + " a folder" : "")
        + (each || together ? " with the bin" : "");
  }

  private static Why footprintWhy(Plan plan, PlanInputs in, long states, String held) {
    Counts counts = plan.keep();
    return new Why(
        "N × size × documents × folders, and a quarter of that for dropped ones",
        filled(plan.compacting(), in, states)
            + " × "
            + Sizes.words(in.size())
            + " × "
            + in.documents()
            + " × "
            + in.places()
            + (counts.most() == 0 ? " (the protected one stays)" : "")
            + held,
        PRACTICE);
  }

  private static String filled(Compacting compacting, PlanInputs in, long states) {
    long plain = compacting.plainOf(states);
    if (plain == states) {
      return String.valueOf(states);
    }
    return in.compacted() == null
        ? states + " (compacted ones are not measured yet)"
        : String.format(
            java.util.Locale.ROOT,
            "(%d + %d compacted at %.1f %%)",
            plain,
            states - plain,
            100 * in.compacted());
  }

  private static Why loadWhy(Plan plan, PlanInputs in, double copies) {
    return new Why(
        "(1 h / T) × size × documents × folders",
        copies > 0
            ? String.format(
                java.util.Locale.ROOT,
                "%.1f × %s × %d × %d",
                copies,
                Sizes.words(in.size()),
                in.documents(),
                in.places())
            : plan.timed() ? "nothing tells how often it is saved" : "no timed copies",
        PRACTICE);
  }

  /** Recovery folders that cannot take what the plan would send them. */
  private static Stream<String> tooSlow(PlanInputs in, long loadPerHour) {
    return in.rates().entrySet().stream()
        .filter(place -> place.getValue() * 3600 < loadPerHour)
        .map(
            place ->
                place.getKey()
                    + " is too slow for this: it takes "
                    + Sizes.words(place.getValue() * 3600)
                    + " an hour, the plan sends "
                    + Sizes.words(loadPerHour)
                    + ". It would fall ever further behind.");
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

  /** How far copies lie apart: those of every save as the program's own writes, if known. */
  static Duration apart(Plan plan, @Nullable Duration programWrites) {
    if (!plan.everySave() || programWrites == null) {
      return plan.interval();
    }
    boolean sooner = plan.interval().isZero() || programWrites.compareTo(plan.interval()) < 0;
    return sooner ? programWrites : plan.interval();
  }

  private static Why fileLostWhy(Plan plan, PlanInputs in, Duration worst) {
    Duration h = plan.handsOff().longestHold();
    String filled =
        (in.programWrites() == null ? "W unknown" : Words.age(in.programWrites()))
            + " + "
            + Words.age(plan.dueAfter().orElse(Duration.ZERO))
            + " + "
            + Words.age(plan.hardLimit())
            + " + "
            + (h == null ? "no limit to pauses" : Words.age(h))
            + " + "
            + Words.age(in.copyTime() == null ? Duration.ZERO : in.copyTime())
            + (worst == null ? "" : " = " + Words.age(worst));
    return new Why("W + T + p + h + d", filled, OWN);
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
    if (plan.handsOff().longestHold() == null) {
      warnings.add("Pauses have no limit: while one lasts, no backup is made.");
    }
    Duration least = worst == null ? plan.dueAfter().orElse(Duration.ZERO) : worst;
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
