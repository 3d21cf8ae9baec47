package dev.kavrin.core.units;

import jakarta.annotation.Nullable;
import java.time.LocalTime;

/** Hours of every day, from one time to another; the night may lie between. */
public final class DayHours {
  private DayHours() {}

  /**
   * @param from null for any time
   * @param to null with it
   * @throws IllegalArgumentException one of them lacks, or both are the same
   */
  public static void require(@Nullable LocalTime from, @Nullable LocalTime to) {
    if ((from == null) != (to == null) || (from != null && from.equals(to))) {
      throw new IllegalArgumentException("Hours need a beginning and another end, or neither");
    }
  }

  /** True if a time of day lies within them. */
  public static boolean contain(@Nullable LocalTime from, @Nullable LocalTime to, LocalTime time) {
    if (from == null || to == null) {
      return true;
    }
    boolean begun = !time.isBefore(from);
    boolean over = !time.isBefore(to);
    return from.isBefore(to) ? begun && !over : begun || !over;
  }
}
