package dev.kavrin.core.plan;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.NavigableSet;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * What one way to lose would have cost, had it struck at any moment of working time with the same
 * likelihood: the working time since the newest work that survives it.
 *
 * <p>With survivors that hold the work up to hᵢ and are available from aᵢ the mean is Σ[(aᵢ₊₁−hᵢ)²
 * − (aᵢ−hᵢ)²] / (2Σ(aᵢ₊₁−aᵢ)), the worst max(aᵢ₊₁−hᵢ); with instant copies and gaps g that is
 * Σg²/(2Σg), the residual life of D. R. Cox, <i>Renewal Theory</i>, 1962 (from memory).
 *
 * @param most what is lost at nineteen of twenty moments at most
 * @param over working time looked at, from the first survivor on
 */
public record PastLoss(Duration mean, Duration most, Duration worst, Duration over) {
  private static final double NEARLY_ALL = 0.95;
  private static final int HALVINGS = 60;

  /**
   * Something that survives.
   *
   * @param holds the work up to then is in it
   * @param from when it was complete
   * @param until when it was gone, null if it stands
   */
  public record Survivor(Instant holds, Instant from, @Nullable Instant until) {
    public static Survivor at(Instant instant) {
      return new Survivor(instant, instant, null);
    }
  }

  /** A stretch of working time in which the loss grows from one figure to another. */
  private record Stretch(double from, double to) {}

  /** Empty where nothing survived, or nobody worked. */
  public static Optional<PastLoss> of(Worked worked, Collection<Survivor> survivors) {
    List<Stretch> stretches = stretches(worked, survivors);
    double over = 0;
    double area = 0;
    double worst = 0;
    for (Stretch s : stretches) {
      over += s.to() - s.from();
      area += (s.to() * s.to() - s.from() * s.from()) / 2;
      worst = Math.max(worst, s.to());
    }
    return over <= 0
        ? Optional.empty()
        : Optional.of(
            new PastLoss(
                seconds(area / over),
                seconds(share(stretches, over, worst)),
                seconds(worst),
                seconds(over)));
  }

  private static Duration seconds(double seconds) {
    return Duration.ofMillis(Math.round(seconds * 1000));
  }

  /** The figure that is not passed for nearly all of the time. */
  private static double share(List<Stretch> stretches, double over, double worst) {
    double low = 0;
    double high = worst;
    for (int i = 0; i < HALVINGS; i++) {
      double middle = (low + high) / 2;
      double below = 0;
      for (Stretch s : stretches) {
        below += Math.max(0, Math.min(middle, s.to()) - s.from());
      }
      if (below < NEARLY_ALL * over) {
        low = middle;
      } else {
        high = middle;
      }
    }
    return high;
  }

  private static List<Stretch> stretches(Worked worked, Collection<Survivor> survivors) {
    TreeMap<Instant, List<Survivor>> coming = new TreeMap<>();
    TreeMap<Instant, List<Survivor>> going = new TreeMap<>();
    NavigableSet<Instant> moments = new TreeSet<>();
    for (Survivor s : survivors) {
      coming.computeIfAbsent(s.from(), k -> new ArrayList<>()).add(s);
      moments.add(s.from());
      if (s.until() != null && s.until().isAfter(s.from())) {
        going.computeIfAbsent(s.until(), k -> new ArrayList<>()).add(s);
        moments.add(s.until());
      }
    }
    List<Stretch> stretches = new ArrayList<>();
    TreeMap<Instant, Integer> standing = new TreeMap<>();
    Instant end = worked.sittings().isEmpty() ? Instant.MIN : worked.end();
    for (Instant moment : moments) {
      coming
          .getOrDefault(moment, List.of())
          .forEach(s -> standing.merge(s.holds(), 1, Integer::sum));
      going
          .getOrDefault(moment, List.of())
          .forEach(s -> standing.computeIfPresent(s.holds(), (h, n) -> n == 1 ? null : n - 1));
      Instant next = moments.higher(moment);
      Instant to = next == null || next.isAfter(end) ? end : next;
      Duration worth = moment.isBefore(to) ? worked.between(moment, to) : Duration.ZERO;
      if (!worth.isZero()) {
        Instant held = standing.isEmpty() ? moments.first() : standing.lastKey();
        double since = worked.between(held, moment).toNanos() / 1e9;
        stretches.add(new Stretch(since, since + worth.toNanos() / 1e9));
      }
    }
    return stretches;
  }
}
