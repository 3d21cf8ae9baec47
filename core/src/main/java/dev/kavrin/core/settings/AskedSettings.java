package dev.kavrin.core.settings;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.Map;

/**
 * A program's own settings as a person found them in the program itself, where no format lets
 * anything read them. An update of the program may change them behind everybody's back.
 *
 * @param at when they were looked up, null until that is recorded
 * @param wanted what they should say
 */
public record AskedSettings(Found found, @Nullable Instant at, SettingsLink.Wanted wanted) {
  /**
   * What the program shows; what is null was not looked up.
   *
   * @param interval between two autosaves
   * @param count of autosaves it keeps
   * @param folder they go to
   * @param keepEarlier whether a save keeps the file before it
   */
  public record Found(
      @Nullable Boolean enabled,
      @Nullable Duration interval,
      @Nullable Integer count,
      @Nullable String folder,
      @Nullable Boolean keepEarlier) {
    public Found {
      if (interval != null && interval.compareTo(Duration.ofSeconds(1)) < 0) {
        throw new IllegalArgumentException("An autosave every " + interval + " is none");
      }
      if (count != null && count < 0) {
        throw new IllegalArgumentException("Autosaves it keeps: " + count + " is less than none");
      }
    }

    boolean tellsNothing() {
      return enabled == null
          && interval == null
          && count == null
          && folder == null
          && keepEarlier == null;
    }
  }

  public AskedSettings {
    if (found == null || found.tellsNothing()) {
      throw new IllegalArgumentException("Nothing was said of the program's own settings");
    }
    wanted = wanted == null ? SettingsLink.Wanted.ON : wanted;
  }

  /** The same, looked up at that time. */
  public AskedSettings lookedUp(Instant time) {
    return new AskedSettings(found, time, wanted);
  }

  /** In what the interval is counted. */
  SettingsLink.Unit unit() {
    Duration interval = found.interval();
    return interval != null && interval.toSeconds() % 60 > 0
        ? SettingsLink.Unit.SECONDS
        : SettingsLink.Unit.MINUTES;
  }

  /** What was found, as a settings file would say it. */
  Map<Meaning, String> values() {
    Map<Meaning, String> values = new EnumMap<>(Meaning.class);
    put(values, Meaning.ENABLED, onOrOff(found.enabled()));
    put(
        values,
        Meaning.INTERVAL,
        found.interval() == null ? null : unit().within(found.interval()));
    put(values, Meaning.COUNT, found.count());
    put(values, Meaning.FOLDER, found.folder());
    put(values, Meaning.KEEP_EARLIER, onOrOff(found.keepEarlier()));
    return values;
  }

  private static void put(Map<Meaning, String> values, Meaning meaning, @Nullable Object value) {
    if (value != null) {
      values.put(meaning, value.toString());
    }
  }

  @Nullable
  private static String onOrOff(@Nullable Boolean is) {
    return is == null ? null : is ? "on" : "off";
  }
}
