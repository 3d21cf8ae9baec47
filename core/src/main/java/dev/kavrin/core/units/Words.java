package dev.kavrin.core.units;

import java.time.Duration;
import java.util.Locale;

/** Ages and counts as people say them. */
public final class Words {
  private Words() {}

  /** "40 s", "11 min", "3 h 50 min", "2 days". Never negative. */
  public static String age(Duration duration) {
    long seconds = Math.max(0, duration.toSeconds());
    if (seconds < 60) {
      return seconds + " s";
    }
    long minutes = Math.round(seconds / 60.0);
    if (minutes < 60) {
      return minutes + " min";
    }
    long hours = minutes / 60;
    if (hours < 48) {
      long rest = minutes % 60;
      return rest == 0 ? hours + " h" : hours + " h " + rest + " min";
    }
    return Math.round(hours / 24.0) + " days";
  }

  /** Working time, of which there are no days: "3 h 50 min", from ten hours on "36 h". */
  public static String worked(Duration duration) {
    return duration.toHours() < 10 ? age(duration) : Math.round(duration.toMinutes() / 60.0) + " h";
  }

  /** {@code count(1, "part")} is "1 part", {@code count(2, "copy")} "2 copies". */
  public static String count(long n, String noun) {
    return n + " " + (n == 1 ? noun : noun.replaceFirst("(?<=[^aeiou])y$", "ie") + "s");
  }

  /** A share as whole per cent, "61 %"; only everything is 100. */
  public static String percent(double share) {
    long rounded = Math.round(share * 100);
    if (rounded >= 100 && share < 1) {
      rounded = 99;
    }
    return String.format(Locale.ROOT, "%d %%", rounded);
  }
}
