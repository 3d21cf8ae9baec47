package dev.kavrin.core.plan;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.RunCounts;
import dev.kavrin.core.units.Sizes;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * How often to copy: what each interval wastes, which are equally good, and what to change.
 *
 * @param rate how often work is cut off
 * @param price what one copy costs
 * @param curve waste by interval, empty while the rate or the price is unknown
 * @param best interval with the least waste for the mean rate, null likewise
 * @param from shortest interval that is as good, over the rate's interval; null likewise
 * @param to longest that is
 * @param present the plan as it stands, null if nothing tells how far apart its copies lie
 * @param proposal null if nothing better is known
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
    @Nullable Proposal proposal,
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

  /**
   * What to change for the better.
   *
   * @param changes each in words, old and new
   * @param moreBytes room it takes beyond the present plan's, in all recovery folders
   */
  public record Proposal(Plan plan, List<String> changes, long moreBytes, List<String> told) {}

  /** What to propose once it is known which intervals are good. */
  private interface Proposing {
    @Nullable
    Proposal propose(Duration best, Duration from, Duration to);
  }

  /**
   * @param reckoning what the person puts in place of what was measured
   */
  public static Advice of(Plan plan, PlanInputs in, CrashRate seen, Reckoning reckoning) {
    return of(
        seen.orSaid(reckoning.crashEvery()),
        Price.of(in, reckoning),
        PlanFigures.apart(plan, in.programWrites()),
        null,
        (best, from, to) -> proposal(plan, in, best, from, to));
  }

  /** The same for runs, whose copies come by steps; the loss is computing time. */
  public static Advice ofRun(
      Plan plan, PlanInputs in, RunInputs run, CrashRate seen, Reckoning reckoning) {
    Duration step = run.step();
    long k = RunFigures.stepsBetween(plan, run);
    return of(
        seen.orSaid(reckoning.crashEvery()),
        Price.of(in, reckoning),
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
  private static Proposal runProposal(
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
    return new Proposal(changed, changes, more, told);
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

  /**
   * Nothing is proposed while the present interval is as good, or every save is copied anyway. The
   * count follows, so that the copies reach as far back as before.
   */
  @Nullable
  private static Proposal proposal(
      Plan plan, PlanInputs in, Duration best, Duration from, Duration to) {
    List<String> told = new ArrayList<>();
    Duration interval = rounded(best, from, to);
    Duration fixed = fixed(plan, in);
    Duration room = fixed == null ? null : plan.accepted().minus(fixed);
    if (room != null && room.compareTo(interval) < 0) {
      interval = room.compareTo(SHORTEST) < 0 ? SHORTEST : rounded(room, SHORTEST, room);
      told.add(
          room.compareTo(SHORTEST) < 0
              ? "No interval holds you to the "
                  + Words.age(plan.accepted())
                  + " you accept: the rest alone comes to "
                  + Words.age(fixed)
                  + "."
              : "Shorter than the least waste, so that you lose "
                  + Words.age(plan.accepted())
                  + " at most.");
    }
    Duration now = plan.interval();
    boolean asGood = told.isEmpty() && now.compareTo(from) >= 0 && now.compareTo(to) <= 0;
    if (plan.everySave() || asGood || now.equals(interval)) {
      return null;
    }
    int newest =
        now.isZero() || plan.keep().newest() == 0
            ? Math.max(plan.keep().newest(), 1)
            : (int)
                Math.min(
                    100_000, ceil(plan.keep().newest() * now.toSeconds(), interval.toSeconds()));
    Counts k = plan.keep();
    Plan changed =
        plan.every(interval)
            .with(new Counts(newest, k.hourly(), k.daily(), k.weekly(), k.ring(), k.room()));
    List<String> changes = new ArrayList<>();
    changes.add(
        "interval: " + (now.isZero() ? "none" : Words.age(now)) + " → " + Words.age(interval));
    if (newest != k.newest()) {
      changes.add("newest kept: " + k.newest() + " → " + newest);
    }
    long more = PlanFigures.of(changed, in).footprint() - PlanFigures.of(plan, in).footprint();
    return new Proposal(changed, changes, more, told);
  }

  private static long ceil(long a, long b) {
    return -Math.floorDiv(-a, b);
  }

  /** Worst loss without the interval: W + p + h + d; null if unknown. */
  @Nullable
  private static Duration fixed(Plan plan, PlanInputs in) {
    Duration h = plan.handsOff().longestHold();
    if (in.programWrites() == null || h == null) {
      return null;
    }
    Duration d = in.copyTime() == null ? Duration.ZERO : in.copyTime();
    return in.programWrites().plus(plan.hardLimit()).plus(h).plus(d);
  }

  /** Whole minutes above one, else quarters of one, if that stays as good. */
  private static Duration rounded(Duration interval, Duration from, Duration to) {
    long unit = interval.compareTo(Duration.ofMinutes(1)) < 0 ? 15 : 60;
    long up = Math.max(unit, Math.round((double) interval.toSeconds() / unit) * unit);
    long down = Math.max(unit, interval.toSeconds() / unit * unit);
    for (long seconds : new long[] {up, down}) {
      Duration r = Duration.ofSeconds(seconds);
      if (r.compareTo(from) >= 0 && r.compareTo(to) <= 0) {
        return r;
      }
    }
    return Duration.ofSeconds(Math.max(1, interval.toSeconds()));
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
            + (price.said() ? "; d as you said" : ""),
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
                ? "d is unknown: no copy of " + Sizes.words(price.bytes()) + " was made yet."
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
