package dev.kavrin.core.settings;

import dev.kavrin.core.naming.Surroundings;
import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Duration;
import java.util.EnumMap;
import java.util.Map;

/**
 * Where a program keeps its own settings, and what its keys mean.
 *
 * @param file its path; {@code ~}, {@code $NAME} and {@code *} may stand in it
 * @param separator between key and value, for lines only
 * @param keys which of them are known
 * @param unit of the interval
 * @param wanted what they should say
 */
public record SettingsLink(
    String file,
    SettingsKind kind,
    String separator,
    Map<Meaning, String> keys,
    Unit unit,
    Wanted wanted) {
  /** In what a program counts its interval. */
  public enum Unit {
    MILLISECONDS(Duration.ofMillis(1)),
    SECONDS(Duration.ofSeconds(1)),
    MINUTES(Duration.ofMinutes(1)),
    HOURS(Duration.ofHours(1));

    private final Duration one;

    Unit(Duration one) {
      this.one = one;
    }

    Duration of(double count) {
      return Duration.ofMillis(Math.round(one.toMillis() * count));
    }

    /** The longest whole number of units within a time, at least one. */
    long within(Duration time) {
      return Math.max(1, time.toMillis() / one.toMillis());
    }
  }

  /**
   * What the settings should say; what is null does not matter.
   *
   * @param interval at most
   * @param count at least
   */
  public record Wanted(
      @Nullable Boolean enabled,
      @Nullable Duration interval,
      @Nullable Integer count,
      @Nullable String folder,
      @Nullable Boolean keepEarlier) {
    public static final Wanted ON = new Wanted(true, null, null, null, null);

    public Wanted {
      if (interval != null && interval.compareTo(Duration.ofSeconds(1)) < 0) {
        throw new IllegalArgumentException("An autosave every " + interval + " is none");
      }
      if (count != null && count < 1) {
        throw new IllegalArgumentException("Autosaves to keep: " + count + " is less than one");
      }
    }
  }

  public SettingsLink {
    if (file == null || file.isBlank()) {
      throw new IllegalArgumentException("A settings file needs a path");
    }
    separator = separator == null ? "" : separator;
    Map<Meaning, String> known = new EnumMap<>(Meaning.class);
    if (keys != null) {
      keys.forEach((m, k) -> known.put(m, k.strip()));
      known.values().removeIf(String::isEmpty);
    }
    keys = Map.copyOf(known);
    unit = unit == null ? Unit.MINUTES : unit;
    wanted = wanted == null ? Wanted.ON : wanted;
  }

  /**
   * Its path with home and variables filled in; {@code *} may be left in names.
   *
   * @throws IllegalArgumentException a variable is not set, or the path is not absolute then
   */
  public Path resolved(Surroundings surroundings) {
    Path path = Path.of(surroundings.filled(file)).normalize();
    if (!path.isAbsolute()) {
      throw new IllegalArgumentException(file + " is not an absolute path");
    }
    return path;
  }
}
