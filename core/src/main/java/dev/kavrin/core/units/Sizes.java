package dev.kavrin.core.units;

import java.util.Locale;

/** Words for amounts of bytes, decimal as everywhere in Kavrin: 1 GB = 10^9 B. */
public final class Sizes {
  private static final String[] UNITS = {"B", "kB", "MB", "GB", "TB", "PB"};

  private Sizes() {}

  /** For people: {@code 24_800_000} is "24.8 MB". Negative amounts keep their sign. */
  public static String words(long bytes) {
    double value = Math.abs((double) bytes);
    int unit = 0;
    while (value >= 999.95 && unit < UNITS.length - 1) {
      value /= 1000;
      unit++;
    }
    String digits =
        unit == 0 ? String.valueOf((long) value) : String.format(Locale.ROOT, "%.1f", value);
    return (bytes < 0 ? "−" : "") + digits + " " + UNITS[unit];
  }
}
