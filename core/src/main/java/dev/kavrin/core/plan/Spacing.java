package dev.kavrin.core.plan;

import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * How far apart Kavrin's own backups may lie. They hold nobody up, so no interval wastes least: a
 * shorter one loses less and writes more, and what a person accepts to lose decides.
 *
 * @param points what each interval loses and costs, empty if nothing tells how often the program
 *     writes
 * @param longest interval that keeps the worst loss within what is accepted; null if none does, or
 *     nothing tells
 * @param proposal null if the present interval keeps to what is accepted, or nothing does
 * @param told why no interval keeps to it; null if one does, or nothing tells
 */
public record Spacing(
    List<Spaced> points,
    @Nullable Duration longest,
    @Nullable Proposal proposal,
    @Nullable String told,
    Why why) {
  private static final List<Long> SECONDS =
      List.of(
          30L, 60L, 120L, 180L, 240L, 300L, 480L, 600L, 900L, 1200L, 1800L, 2700L, 3600L, 5400L,
          7200L, 10_800L, 14_400L);

  /**
   * One interval.
   *
   * @param worst lost if the file is lost, or a disk while the other holds a backup
   * @param usual the same on average
   * @param busy share of the time in which a backup is being written, null if none was measured
   * @param bytesPerHour written an hour of steady work
   */
  public record Spaced(
      Duration interval,
      Duration worst,
      Duration usual,
      @Nullable Double busy,
      long bytesPerHour) {}

  /**
   * What to change for the better.
   *
   * @param changes each in words, old and new
   * @param moreBytes room it takes beyond the present plan's, in all backup folders
   * @param told what a person should know before taking it
   */
  public record Proposal(Plan plan, List<String> changes, long moreBytes, List<String> told) {}

  public static Spacing of(Plan plan, PlanInputs in) {
    List<Spaced> points =
        SECONDS.stream()
            .map(Duration::ofSeconds)
            .flatMap(t -> point(plan.every(t), in).stream())
            .toList();
    Duration fixed = fixed(plan, in);
    Duration room = fixed == null ? null : plan.accepted().minus(fixed);
    boolean some = room != null && room.compareTo(Advice.SHORTEST) >= 0;
    return new Spacing(
        points,
        some ? room : null,
        some ? proposal(plan, in, room) : null,
        room == null || some ? null : hopeless(plan, in, fixed),
        new Why(
            "T = accepted − (W + p + h + d)",
            fixed == null
                ? "unknown: nothing tells how often the program writes, or pauses have no limit"
                : Words.age(plan.accepted()) + " − " + Words.age(fixed),
            "by definition of the cadence, no source"));
  }

  private static List<Spaced> point(Plan plan, PlanInputs in) {
    PlanFigures figures = PlanFigures.of(plan, in);
    if (figures.fileLost() == null || figures.meanFileLost() == null) {
      return List.of();
    }
    Double busy =
        in.copyTime() == null
            ? null
            : Math.min(
                1.0,
                in.copyTime().toNanos()
                    * (double) in.documents()
                    * in.places()
                    / plan.interval().toNanos());
    return List.of(
        new Spaced(
            plan.interval(),
            figures.fileLost(),
            figures.meanFileLost(),
            busy,
            figures.loadPerHour()));
  }

  /** The count follows, so that the backups reach as far back as before. */
  @Nullable
  private static Proposal proposal(Plan plan, PlanInputs in, Duration room) {
    Duration now = plan.interval();
    boolean keeps = !now.isZero() && now.compareTo(room) <= 0;
    Duration interval = rounded(room);
    if (plan.everySave() || keeps || now.equals(interval)) {
      return null;
    }
    Counts k = plan.keep();
    int newest =
        now.isZero() || k.newest() == 0
            ? Math.max(k.newest(), 1)
            : (int)
                Math.min(
                    100_000, -Math.floorDiv(-k.newest() * now.toSeconds(), interval.toSeconds()));
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
    return new Proposal(
        changed,
        changes,
        more,
        List.of("You lose " + Words.age(plan.accepted()) + " at most then."));
  }

  private static String hopeless(Plan plan, PlanInputs in, Duration fixed) {
    return "No interval holds you to the "
        + Words.age(plan.accepted())
        + " you accept: without it the loss already comes to "
        + Words.age(fixed)
        + ", since the program itself writes only every "
        + Words.age(in.programWrites())
        + ".";
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

  /** Whole minutes, above ten of them fives; below one minute halves. */
  private static Duration rounded(Duration room) {
    long s = room.toSeconds();
    long unit = s < 60 ? 30 : s <= 600 ? 60 : 300;
    return Duration.ofSeconds(s / unit * unit);
  }
}
