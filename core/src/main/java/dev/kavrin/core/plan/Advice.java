package dev.kavrin.core.plan;

import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * How often a program should save of its own accord, or a run write restart files: what each
 * interval wastes, and which are equally good. For what holds a person or a run up; Kavrin's own
 * backups do not, see {@link Spacing}.
 *
 * @param rate how often work is cut off
 * @param price what one copy costs
 * @param curve waste by interval, empty while the rate or the price is unknown
 * @param best interval with the least waste for the mean rate, null likewise
 * @param from shortest interval that is as good, over the rate's interval; null likewise
 * @param to longest that is
 * @param present as it stands, null if nothing tells how far apart those copies lie
 * @param proposal for runs; null if nothing better is known
 * @param step computing time of one step of a run, null if it is not about runs; intervals then are
 *     computing time, and proposals count steps
 * @param why how the best came about
 * @param rateWhy how the rate came about
 */
public record Advice(
    CrashRate rate,
    Price price,
    List<Point> curve,
    @Nullable Duration best,
    @Nullable Duration from,
    @Nullable Duration to,
    @Nullable Point present,
    @Nullable Spacing.Proposal proposal,
    @Nullable Duration step,
    Why why,
    Why rateWhy) {
  /** Shortest and longest interval on the curve. */
  public static final Duration SHORTEST = Duration.ofSeconds(30);

  public static final Duration LONGEST = Duration.ofHours(4);
  private static final int POINTS = 60;
  private static final double AS_GOOD = 0.05;

  /**
   * @param waste seconds lost for each second of work that stays
   */
  public record Point(Duration interval, double waste) {}

  /** What to propose once it is known which intervals are good. */
  private interface Proposing {
    @Nullable
    Spacing.Proposal propose(Duration best, Duration from, Duration to);
  }

  /**
   * For the program's own autosave.
   *
   * @param reckoning what the person puts in place of what was measured
   */
  public static Advice ofProgram(PlanInputs in, CrashRate seen, Reckoning reckoning) {
    Duration own = in.programWrites() == null ? Duration.ZERO : in.programWrites();
    return of(
        seen.orSaid(reckoning.crashEvery()),
        Price.ofProgram(in, reckoning),
        own,
        null,
        (best, from, to) -> null);
  }

  /** The same for runs, whose copies come by steps; the loss is computing time. */
  public static Advice ofRun(
      Plan plan, PlanInputs in, RunInputs run, CrashRate seen, Reckoning reckoning) {
    Duration step = run.step();
    long k = RunFigures.stepsBetween(plan, run);
    return of(
        seen.orSaid(reckoning.crashEvery()),
        Price.ofRun(in, reckoning),
        step == null ? Duration.ZERO : step.multipliedBy(k),
        step,
        (best, from, to) -> step == null ? null : runProposal(plan, run, k, best, from, to));
  }

  private static Advice of(
      CrashRate rate, Price price, Duration apart, @Nullable Duration step, Proposing proposing) {
    Why rateWhy = rateWhy(rate);
    if (!rate.isKnown() || price.stall() == null) {
      Why unknown = unknown(rate, price);
      return new Advice(
          rate, price, List.of(), null, null, null, null, null, step, unknown, rateWhy);
    }
    double d = seconds(price.stall());
    Waste waste = new Waste(d, seconds(rate.every()));
    Duration best = within(waste.best());
    Duration from = within(new Waste(d, seconds(rate.from())).within(AS_GOOD)[0]);
    Duration to = within(new Waste(d, seconds(rate.to())).within(AS_GOOD)[1]);
    return new Advice(
        rate,
        price,
        curve(waste),
        best,
        from,
        to,
        apart.isZero() ? null : point(waste, apart),
        proposing.propose(best, from, to),
        step,
        why(waste, price, rate),
        rateWhy);
  }

  /** As many restart files follow as it takes to reach as many steps back. */
  @Nullable
  private static Spacing.Proposal runProposal(
      Plan plan, RunInputs run, long now, Duration best, Duration from, Duration to) {
    Duration step = run.step();
    List<String> told = new ArrayList<>();
    long most = Math.max(1, plan.accepted().dividedBy(step));
    long k = Math.max(1, Math.round((double) best.toMillis() / step.toMillis()));
    if (k > most) {
      k = most;
      told.add(
          "Fewer than the least waste, so that you lose "
              + Words.age(plan.accepted())
              + " of computing at most.");
    }
    Duration apart = step.multipliedBy(now);
    boolean asGood =
        told.isEmpty() && now > 0 && apart.compareTo(from) >= 0 && apart.compareTo(to) <= 0;
    if (plan.everySave() || asGood || k == now) {
      return null;
    }
    RunCounts counts = plan.runs();
    int restarts =
        now == 0 || counts.restarts() == 0
            ? Math.max(1, counts.restarts())
            : (int) Math.min(100_000, ceil(counts.restarts() * now, k));
    Plan changed =
        plan.onSteps(
            (int) k, new RunCounts(restarts, counts.everyResult(), counts.setupEachTime()));
    List<String> changes = new ArrayList<>();
    changes.add("steps between copies: " + (now == 0 ? "none" : now) + " → " + k);
    if (restarts != counts.restarts()) {
      changes.add("restart files kept: " + counts.restarts() + " → " + restarts);
    }
    long more = RunFigures.of(changed, run).footprint() - RunFigures.of(plan, run).footprint();
    return new Spacing.Proposal(changed, changes, more, told);
  }

  private static List<Point> curve(Waste waste) {
    List<Point> curve = new ArrayList<>();
    double span = Math.log((double) LONGEST.toSeconds() / SHORTEST.toSeconds());
    for (int i = 0; i <= POINTS; i++) {
      long seconds = Math.round(SHORTEST.toSeconds() * Math.exp(span * i / POINTS));
      curve.add(point(waste, Duration.ofSeconds(seconds)));
    }
    return List.copyOf(curve);
  }

  private static Point point(Waste waste, Duration interval) {
    return new Point(interval, waste.at(seconds(interval)));
  }

  private static long ceil(long a, long b) {
    return -Math.floorDiv(-a, b);
  }

  private static Duration within(double seconds) {
    Duration t = Duration.ofMillis(Math.round(Math.min(seconds, LONGEST.toSeconds()) * 1000));
    return t.compareTo(SHORTEST) < 0 ? SHORTEST : t;
  }

  private static double seconds(Duration duration) {
    return duration.toNanos() / 1e9;
  }

  private static Why why(Waste waste, Price price, CrashRate rate) {
    return new Why(
        "the least of M(e^((T + d)/M) − 1)/T; near √(2dM) while d is small against M",
        String.format(
                Locale.ROOT,
                "d = %s, M = %s: %s (√(2dM) = %s, higher order %s)",
                brief(waste.price()),
                Words.worked(rate.every()),
                brief(waste.best()),
                brief(waste.young()),
                brief(waste.daly()))
            + (price.said()
                ? "; d as you said"
                : price.files() == 0
                    ? ""
                    : "; d from the first to the last byte of "
                        + price.files()
                        + " autosaves, at least that"),
        "J. W. Young, CACM 17(9), 1974; J. T. Daly, FGCS 22(3), 2006");
  }

  private static String brief(double seconds) {
    return seconds < 60
        ? String.format(Locale.ROOT, "%.2f s", seconds)
        : Words.age(Duration.ofSeconds(Math.round(seconds)));
  }

  private static Why unknown(CrashRate rate, Price price) {
    return new Why(
        "the least of M(e^((T + d)/M) − 1)/T",
        (rate.isKnown() ? "" : "M is unknown: no crash was seen yet. ")
            + (price.stall() == null
                ? "d is unknown: no autosave that the program wrote anew was seen yet."
                : ""),
        "J. W. Young, CACM 17(9), 1974; J. T. Daly, FGCS 22(3), 2006");
  }

  private static Why rateWhy(CrashRate rate) {
    if (rate.said()) {
      return new Why("as you said", Words.worked(rate.every()), "your own word");
    }
    String filled =
        "n = " + rate.crashes() + ", U = " + Words.worked(rate.worked()) + " of work seen";
    return new Why(
        "U/n, 95 % between 2U/χ²(0.975; 2n + 2) and 2U/χ²(0.025; 2n)",
        rate.from() == null
            ? filled
            : filled
                + ": "
                + (rate.every() == null ? "unknown" : Words.worked(rate.every()))
                + ", "
                + Words.worked(rate.from())
                + " to "
                + (rate.to() == null ? "any time" : Words.worked(rate.to())),
        "NIST/SEMATECH e-Handbook of Statistical Methods, 8.4.5.1");
  }
}
