package dev.kavrin.core.settings;

import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * What keys of a settings file seem to mean, by the words in their names and the look of their
 * values. A proposal, for a person to confirm.
 *
 * @param unit of the interval, by the key's name, else by its size
 */
public record SettingsGuess(Map<Meaning, String> keys, SettingsLink.Unit unit) {
  private static final Pattern ABOUT =
      words("auto ?save|auto ?backup|back ?up|recover(y)?|safety|snapshot|auto ?copy|copies");
  private static final Map<Meaning, Pattern> NAMES =
      Map.of(
          Meaning.ENABLED,
              words("enabled?|on|active|use|auto ?save|auto ?copy|auto ?backup|copies"),
          Meaning.INTERVAL,
              words("interval|every|minutes?|mins?|seconds?|secs?|period|frequency|time|ms|hours?"),
          Meaning.COUNT, words("count|versions?|keep|max|number|slots?|copies|files|generations"),
          Meaning.FOLDER, words("folder|dir|directory|path|location|place"),
          Meaning.KEEP_EARLIER, words("keep|earlier|previous|old|bak|back ?up|on save|before"));
  private static final Pattern SECONDS = words("seconds?|secs?|s");
  private static final Pattern MILLIS = words("ms|millis|milliseconds?");
  private static final Pattern HOURS = words("hours?|hrs?|h");
  private static final Pattern MINUTES = words("minutes?|mins?");

  private static Pattern words(String any) {
    return Pattern.compile("(^| )(" + any + ")( |$)");
  }

  public static SettingsGuess of(SettingsText text) {
    Map<Meaning, String> keys = new EnumMap<>(Meaning.class);
    List<SettingsEntry> entries = text.entries();
    for (Meaning meaning :
        List.of(
            Meaning.INTERVAL,
            Meaning.FOLDER,
            Meaning.COUNT,
            Meaning.ENABLED,
            Meaning.KEEP_EARLIER)) {
      best(entries, meaning, keys).ifPresent(k -> keys.put(meaning, k));
    }
    String interval = keys.get(Meaning.INTERVAL);
    return new SettingsGuess(
        Map.copyOf(keys),
        interval == null
            ? SettingsLink.Unit.MINUTES
            : unit(interval, text.value(interval).orElse("")));
  }

  private static Optional<String> best(
      List<SettingsEntry> entries, Meaning meaning, Map<Meaning, String> taken) {
    return entries.stream()
        .filter(e -> !taken.containsValue(e.key()) && score(e, meaning) > 0)
        .max(Comparator.comparingInt((SettingsEntry e) -> score(e, meaning)))
        .map(SettingsEntry::key);
  }

  /** "autosave/keepCount" is "autosave keep count". */
  private static String spoken(String key) {
    return key.replaceAll("([a-z0-9])([A-Z])", "$1 $2")
        .replaceAll("[^A-Za-z0-9]+", " ")
        .strip()
        .toLowerCase(Locale.ROOT);
  }

  private static int score(SettingsEntry entry, Meaning meaning) {
    String all = spoken(entry.key());
    String name = spoken(Syntax.name(entry.key()));
    if (!looksLike(entry.value(), meaning) || !NAMES.get(meaning).matcher(name).find()) {
      return 0;
    }
    return ABOUT.matcher(all).find() ? 2 + (ABOUT.matcher(name).find() ? 1 : 0) : 0;
  }

  private static boolean looksLike(String value, Meaning meaning) {
    boolean truth = SettingsAudit.isYes(value) || SettingsAudit.isNo(value);
    boolean number = value.matches("\\d+(\\.\\d+)?");
    return switch (meaning) {
      case ENABLED, KEEP_EARLIER -> truth;
      case INTERVAL, COUNT -> number;
      case FOLDER -> !truth && !number;
    };
  }

  private static SettingsLink.Unit unit(String key, String value) {
    String name = spoken(key);
    if (MILLIS.matcher(name).find()) {
      return SettingsLink.Unit.MILLISECONDS;
    } else if (SECONDS.matcher(name).find()) {
      return SettingsLink.Unit.SECONDS;
    } else if (HOURS.matcher(name).find()) {
      return SettingsLink.Unit.HOURS;
    } else if (MINUTES.matcher(name).find()) {
      return SettingsLink.Unit.MINUTES;
    }
    double number = Double.parseDouble(value);
    return number >= 10_000
        ? SettingsLink.Unit.MILLISECONDS
        : number >= 120 ? SettingsLink.Unit.SECONDS : SettingsLink.Unit.MINUTES;
  }
}
