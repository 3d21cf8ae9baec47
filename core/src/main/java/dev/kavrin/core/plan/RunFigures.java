package dev.kavrin.core.plan;

import dev.kavrin.core.keep.BinLimit;
import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * What a plan comes to for solver runs, in steps and computing time (HEART §2).
 *
 * @param lostSteps worst loss if the files are lost: k, or what the interval adds up to; 0 unknown
 * @param lost the same in computing time, null if nothing tells
 * @param reachFrom steps the kept restart files reach back at least: (N − 1)·k
 * @param reachTo at most: N·k
 * @param footprint bytes kept in all backup folders for runs as long as the longest so far
 * @param bin bytes that dropped copies take besides, at most
 * @param loadPerHour bytes written an hour of computing
 * @param warnings what a person should hear before choosing this
 */
public record RunFigures(
    long lostSteps,
    @Nullable Duration lost,
    Why lostWhy,
    @Nullable Duration step,
    long reachFrom,
    long reachTo,
    Why reachWhy,
    long footprint,
    Why footprintWhy,
    long bin,
    long loadPerHour,
    Why loadWhy,
    List<String> warnings) {
  private static final String PRACTICE = "common practice, no source";

  public static RunFigures of(Plan plan, RunInputs in) {
    long k = stepsBetween(plan, in);
    RunCounts counts = plan.runs();
    Duration lost = k == 0 || in.step() == null ? null : in.step().multipliedBy(k);
    long restarts = k == 0 ? 0 : Math.min(counts.restarts(), in.steps() / k);
    long results = counts.everyResult() == 0 ? 0 : in.steps() / counts.everyResult();
    long perRun = restarts * in.restart() + results * in.result();
    double anHour = in.step() == null ? 0 : 3.6e12 / in.step().toNanos();
    double perStep =
        (k == 0 ? 0 : (double) in.restart() / k)
            + (counts.everyResult() == 0 ? 0 : (double) in.result() / counts.everyResult());
    long footprint = Math.multiplyExact(perRun, (long) in.runs() * in.places());
    return new RunFigures(
        k,
        lost,
        new Why(
            "k steps at most, k × time of a step",
            k == 0
                ? "no copies by themselves"
                : k + " × " + (in.step() == null ? "unknown" : Words.age(in.step())),
            PRACTICE),
        in.step(),
        k * Math.max(0, counts.restarts() - 1),
        k * counts.restarts(),
        new Why(
            "(N − 1)·k to N·k steps",
            String.format(
                Locale.ROOT,
                "(%d − 1) × %d to %d × %d",
                counts.restarts(),
                k,
                counts.restarts(),
                k),
            PRACTICE),
        footprint,
        footprintWhy(in, restarts, results),
        BinLimit.of(footprint, plan.holdsRoom()),
        Math.round(anHour * perStep * in.places()),
        new Why(
            "steps an hour × (restart / k + result / j) × folders",
            String.format(
                Locale.ROOT,
                "%.1f × %s × %d",
                anHour,
                Sizes.words(Math.round(perStep)),
                in.places()),
            PRACTICE),
        warnings(plan, k, lost));
  }

  private static Why footprintWhy(RunInputs in, long restarts, long results) {
    return new Why(
        "(restart files × size + results × size) × runs × folders",
        String.format(
            Locale.ROOT,
            "(%d × %s + %d × %s) × %d × %d, runs of %d steps",
            restarts,
            Sizes.words(in.restart()),
            results,
            Sizes.words(in.result()),
            in.runs(),
            in.places(),
            in.steps()),
        PRACTICE);
  }

  /** Steps from one copy to the next; 0 if none is made by itself or nothing tells. */
  static long stepsBetween(Plan plan, RunInputs in) {
    if (plan.everySave()) {
      return 1;
    }
    long byTime =
        plan.interval().isZero() || in.step() == null || in.step().isZero()
            ? Long.MAX_VALUE
            : Math.max(1, plan.interval().dividedBy(in.step()) + 1);
    long bySteps = plan.everySteps() == 0 ? Long.MAX_VALUE : plan.everySteps();
    long k = Math.min(byTime, bySteps);
    return k == Long.MAX_VALUE ? 0 : k;
  }

  private static List<String> warnings(Plan plan, long k, @Nullable Duration lost) {
    List<String> warnings = new ArrayList<>();
    if (!plan.timed()) {
      warnings.add("No copies by step or time: only what you copy by hand is safe.");
    }
    if (plan.runs().restarts() == 0) {
      warnings.add("Zero restart files means no safety: only the newest whole step stays.");
    }
    if (plan.runs().restarts() == 1) {
      warnings.add(
          "Only the latest restart file is kept: if that one is bad, there is no other to go on"
              + " from.");
    }
    if (plan.handsOff().longestHold() == null) {
      warnings.add("Pauses have no limit: while one lasts, no backup is made.");
    }
    if (k > 0 && lost != null && lost.compareTo(plan.accepted()) > 0) {
      warnings.add(
          "You may lose up to "
              + Words.age(lost)
              + " of computing, more than the "
              + Words.age(plan.accepted())
              + " you accept.");
    }
    return warnings;
  }
}
