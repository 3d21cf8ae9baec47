package dev.kavrin.core.plan;

import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;

/**
 * How far apart a program's own writes lie. A setting is no gap: a program that writes when it is
 * idle, or only the document in front, leaves longer ones, and those that were seen count.
 *
 * @param apart what to reckon with: nineteen of twenty gaps are no longer
 * @param setting what its settings say, null if nothing does
 * @param gaps seen in working time; 0 where the setting alone speaks
 */
public record OwnWrites(Duration apart, @Nullable Duration setting, int gaps) {
  private static final double NEARLY_ALL = 0.95;
  private static final int ENOUGH = 5;

  /** As its settings say. */
  @Nullable
  public static OwnWrites setTo(@Nullable Duration setting) {
    return setting == null ? null : new OwnWrites(setting, setting, 0);
  }

  /**
   * @param written moments of its writes: saves, autosaves, rescue files
   * @return empty if neither its settings nor five gaps tell
   */
  public static Optional<OwnWrites> of(
      @Nullable Duration setting, Worked worked, Collection<Instant> written) {
    List<Duration> gaps = new ArrayList<>();
    Instant before = null;
    for (Instant now : new TreeSet<>(written)) {
      Duration gap = before == null ? Duration.ZERO : worked.between(before, now);
      if (!gap.isZero()) {
        gaps.add(gap);
      }
      before = now;
    }
    if (gaps.size() < ENOUGH) {
      return Optional.ofNullable(setTo(setting));
    }
    gaps.sort(null);
    Duration seen = gaps.get((int) Math.ceil(NEARLY_ALL * gaps.size()) - 1);
    boolean longer = setting == null || seen.compareTo(setting) > 0;
    return Optional.of(new OwnWrites(longer ? seen : setting, setting, gaps.size()));
  }

  /** As a figure, with where it comes from. */
  public String words() {
    if (setting == null) {
      return Words.age(apart) + " (95 % of " + gaps + " gaps seen)";
    }
    return gaps == 0 || apart.equals(setting)
        ? Words.age(apart) + " (its setting)"
        : Words.age(apart)
            + " (95 % of "
            + gaps
            + " gaps seen; its setting says "
            + Words.age(setting)
            + ")";
  }
}
