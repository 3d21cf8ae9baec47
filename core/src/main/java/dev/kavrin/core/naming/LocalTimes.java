package dev.kavrin.core.naming;

import dev.kavrin.core.units.Span;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;

/** Times without a zone, as they stand in names, are local to the place and become intervals. */
public final class LocalTimes {
  private LocalTimes() {}

  /**
   * All instants a local time may mean: twice an hour when clocks were set back, so that the span
   * is wide then; the gap's end when they were set forward over it.
   *
   * @param precision what the name leaves out, such as a minute's seconds
   */
  public static Span span(LocalDateTime local, ZoneId zone, Duration precision) {
    List<ZoneOffset> offsets = zone.getRules().getValidOffsets(local);
    if (offsets.isEmpty()) {
      Instant gap = zone.getRules().getTransition(local).getInstant();
      return new Span(gap, gap.plus(precision));
    }
    Instant first = local.toInstant(offsets.get(0));
    Instant last = local.toInstant(offsets.get(offsets.size() - 1));
    return new Span(first, last.plus(precision));
  }
}
