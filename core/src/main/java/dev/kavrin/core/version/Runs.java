package dev.kavrin.core.version;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** Puts steps in the order of the work: (run, step). */
public final class Runs {
  private Runs() {}

  /** A step as it lies on disk. */
  public record Seen(long step, Instant written) {}

  /** A step in its run; runs count from 1. */
  public record Step(long run, long step, Instant written) implements Comparable<Step> {
    @Override
    public int compareTo(Step other) {
      int byRun = Long.compare(run, other.run);
      return byRun != 0 ? byRun : Long.compare(step, other.step);
    }
  }

  /**
   * Gives each step its run. One that is not above the step written before it opens a new run: a
   * rerun from an earlier step.
   *
   * @param known steps whose run is settled
   * @param seen steps on disk, in any order
   * @return the seen ones, in the order in which they were written
   */
  public static List<Step> order(List<Step> known, List<Seen> seen) {
    List<Step> ordered = new ArrayList<>();
    long run = 1;
    long last = Long.MIN_VALUE;
    for (Event event : inTime(known, seen)) {
      if (event.known() != null) {
        run = event.known().run();
      } else {
        run = event.step() <= last ? run + 1 : run;
        ordered.add(new Step(run, event.step(), event.written()));
      }
      last = event.step();
    }
    return ordered;
  }

  private record Event(long step, Instant written, Step known) {}

  private static List<Event> inTime(List<Step> known, List<Seen> seen) {
    return Stream.concat(
            known.stream().map(k -> new Event(k.step(), k.written(), k)),
            seen.stream().map(s -> new Event(s.step(), s.written(), null)))
        .sorted(Comparator.comparing(Event::written).thenComparing(Event::step))
        .toList();
  }
}
