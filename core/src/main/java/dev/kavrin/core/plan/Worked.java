package dev.kavrin.core.plan;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;

/**
 * Working time, from the writes seen: two writes belong to one sitting if they lie at most a pause
 * apart. A rule of our own, no source.
 *
 * @param sittings in order, apart from each other
 */
public record Worked(List<Sitting> sittings) {
  private static final Duration PAUSE = Duration.ofMinutes(45);

  /** Work without a pause. */
  public record Sitting(Instant from, Instant to) {
    Duration within(Instant begin, Instant end) {
      Instant a = from.isAfter(begin) ? from : begin;
      Instant b = to.isBefore(end) ? to : end;
      return a.isBefore(b) ? Duration.between(a, b) : Duration.ZERO;
    }
  }

  public Worked {
    sittings = List.copyOf(sittings);
  }

  /**
   * @param moments at which somebody worked, in any order
   * @param writesEvery longest gap between the program's own writes; twice that is no pause yet
   */
  public static Worked of(Collection<Instant> moments, Duration writesEvery) {
    Duration pause =
        writesEvery.multipliedBy(2).compareTo(PAUSE) > 0 ? writesEvery.multipliedBy(2) : PAUSE;
    List<Sitting> sittings = new ArrayList<>();
    Instant from = null;
    Instant to = null;
    for (Instant moment : moments.stream().sorted().toList()) {
      if (to != null && Duration.between(to, moment).compareTo(pause) > 0) {
        sittings.add(new Sitting(from, to));
        from = null;
      }
      from = from == null ? moment : from;
      to = moment;
    }
    if (to != null) {
      sittings.add(new Sitting(from, to));
    }
    return new Worked(sittings);
  }

  /** Together with other spans in which somebody worked. */
  public Worked and(Collection<Sitting> others) {
    List<Sitting> all = new ArrayList<>(sittings);
    all.addAll(others);
    all.sort(Comparator.comparing(Sitting::from));
    List<Sitting> merged = new ArrayList<>();
    for (Sitting next : all) {
      Sitting last = merged.isEmpty() ? null : merged.get(merged.size() - 1);
      if (last == null || next.from().isAfter(last.to())) {
        merged.add(next);
      } else if (next.to().isAfter(last.to())) {
        merged.set(merged.size() - 1, new Sitting(last.from(), next.to()));
      }
    }
    return new Worked(merged);
  }

  /**
   * Spans that a crash leaves open: from the last write before it to the last moment the program
   * was known alive, where nobody saw what it did in between.
   *
   * @param seen spans in which the program was seen, at work or not
   */
  public static List<Sitting> open(
      Collection<Instant> writes, Collection<Instant> lastAlive, Collection<Sitting> seen) {
    List<Sitting> open = new ArrayList<>();
    for (Instant end : lastAlive) {
      writes.stream()
          .filter(w -> w.isBefore(end))
          .max(Comparator.naturalOrder())
          .filter(w -> seen.stream().noneMatch(s -> s.to().isAfter(w) && s.from().isBefore(end)))
          .ifPresent(w -> open.add(new Sitting(w, end)));
    }
    return open;
  }

  /** What of it falls into spans, in order and apart from each other. */
  public Worked within(List<Sitting> spans) {
    List<Sitting> left = new ArrayList<>();
    for (Sitting sitting : sittings) {
      for (Sitting span : spans) {
        Instant a = sitting.from().isAfter(span.from()) ? sitting.from() : span.from();
        Instant b = sitting.to().isBefore(span.to()) ? sitting.to() : span.to();
        if (a.isBefore(b)) {
          left.add(new Sitting(a, b));
        }
      }
    }
    return new Worked(left);
  }

  /** When the last of it was done; there is some. */
  Instant end() {
    return sittings.get(sittings.size() - 1).to();
  }

  public Duration total() {
    return sittings.stream()
        .map(s -> Duration.between(s.from(), s.to()))
        .reduce(Duration.ZERO, Duration::plus);
  }

  /** Work done between two moments. */
  public Duration between(Instant begin, Instant end) {
    Duration sum = Duration.ZERO;
    for (int i = firstEndingAfter(begin);
        i < sittings.size() && sittings.get(i).from().isBefore(end);
        i++) {
      sum = sum.plus(sittings.get(i).within(begin, end));
    }
    return sum;
  }

  private int firstEndingAfter(Instant moment) {
    int low = 0;
    int high = sittings.size();
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (sittings.get(middle).to().isAfter(moment)) {
        high = middle;
      } else {
        low = middle + 1;
      }
    }
    return low;
  }
}
