package dev.kavrin.core.settings;

import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/**
 * A program's settings as found, against what they should say.
 *
 * @param lines one for each known key, the loudest first
 * @param writesEvery how often the program writes by its own settings; null if it is off or unknown
 */
public record SettingsAudit(List<Line> lines, @Nullable Duration writesEvery) {

  /** How a setting stands. */
  public enum Standing {
    /** The program's own safety is switched off. */
    OFF,
    DIFFERS,
    /** The key is not there; the program goes by a value of its own. */
    MISSING,
    AS_WANTED,
    /** Nobody said what it should be. */
    NOT_WANTED
  }

  /**
   * @param found as it stands in the file, null if it is missing
   * @param put what putting it right would write, null if there is nothing to put right
   * @param words how it stands
   */
  public record Line(
      Meaning meaning,
      String key,
      @Nullable String found,
      @Nullable String put,
      Standing standing,
      String words) {}

  /** What is asked of settings, wherever they stand. */
  private record Question(
      Map<Meaning, String> keys, SettingsLink.Unit unit, SettingsLink.Wanted wanted) {}

  public static SettingsAudit of(SettingsLink link, SettingsText text) {
    return of(new Question(link.keys(), link.unit(), link.wanted()), text::value);
  }

  /** Of settings a person looked up; nothing can put them right but the program itself. */
  public static SettingsAudit of(AskedSettings asked) {
    Map<Meaning, String> keys = new EnumMap<>(Meaning.class);
    Map<String, String> values = new HashMap<>();
    asked
        .values()
        .forEach(
            (meaning, value) -> {
              keys.put(meaning, meaning.words());
              values.put(meaning.words(), value);
            });
    return of(
        new Question(keys, asked.unit(), asked.wanted()),
        key -> Optional.ofNullable(values.get(key)));
  }

  private static SettingsAudit of(Question asks, Function<String, Optional<String>> value) {
    List<Line> lines = new ArrayList<>();
    for (Meaning meaning : Meaning.values()) {
      String key = asks.keys().get(meaning);
      if (key != null) {
        lines.add(line(asks, meaning, key, value.apply(key).orElse(null)));
      }
    }
    lines.sort(Comparator.comparing(Line::standing));
    boolean off = lines.stream().anyMatch(l -> l.standing() == Standing.OFF || isOff(l));
    return new SettingsAudit(List.copyOf(lines), off ? null : interval(asks, value).orElse(null));
  }

  private static boolean isOff(Line line) {
    return line.meaning() == Meaning.ENABLED && isNo(line.found());
  }

  /** What putting right would write, by key. */
  public Map<String, String> changes() {
    Map<String, String> changes = new LinkedHashMap<>();
    lines.stream().filter(l -> l.put() != null).forEach(l -> changes.put(l.key(), l.put()));
    return changes;
  }

  public boolean isOff() {
    return lines.stream().anyMatch(l -> l.standing() == Standing.OFF);
  }

  private static Line line(Question asks, Meaning meaning, String key, String found) {
    String put = wanted(asks, meaning, found);
    boolean missing = found == null;
    Standing standing =
        meaning == Meaning.ENABLED && Boolean.TRUE.equals(asks.wanted().enabled()) && isNo(found)
            ? Standing.OFF
            : missing
                ? Standing.MISSING
                : put != null
                    ? Standing.DIFFERS
                    : isWanted(asks, meaning) ? Standing.AS_WANTED : Standing.NOT_WANTED;
    return new Line(meaning, key, found, put, standing, words(asks, meaning, found, put));
  }

  private static boolean isWanted(Question asks, Meaning meaning) {
    SettingsLink.Wanted w = asks.wanted();
    return switch (meaning) {
      case ENABLED -> w.enabled() != null;
      case INTERVAL -> w.interval() != null;
      case COUNT -> w.count() != null;
      case FOLDER -> w.folder() != null;
      case KEEP_EARLIER -> w.keepEarlier() != null;
    };
  }

  /** What should stand there instead, in the program's own way of writing; null if it is well. */
  @Nullable
  private static String wanted(Question asks, Meaning meaning, String found) {
    SettingsLink.Wanted w = asks.wanted();
    return switch (meaning) {
      case ENABLED -> truth(w.enabled(), found);
      case KEEP_EARLIER -> truth(w.keepEarlier(), found);
      case INTERVAL -> {
        Optional<Double> now = number(found);
        boolean well =
            w.interval() == null
                || now.filter(n -> n > 0)
                    .filter(n -> asks.unit().of(n).compareTo(w.interval()) <= 0)
                    .isPresent();
        yield well ? null : String.valueOf(asks.unit().within(w.interval()));
      }
      case COUNT ->
          w.count() == null || number(found).filter(n -> n >= w.count()).isPresent()
              ? null
              : String.valueOf(w.count());
      case FOLDER -> w.folder() == null || w.folder().equals(found) ? null : w.folder();
    };
  }

  @Nullable
  private static String truth(@Nullable Boolean wanted, @Nullable String found) {
    if (wanted == null || (wanted ? isYes(found) : isNo(found))) {
      return null;
    }
    String like = found == null ? "" : found.toLowerCase(Locale.ROOT);
    String value =
        switch (like) {
          case "yes", "no" -> wanted ? "yes" : "no";
          case "on", "off" -> wanted ? "on" : "off";
          case "enabled", "disabled" -> wanted ? "enabled" : "disabled";
          case "1", "0" -> wanted ? "1" : "0";
          default -> String.valueOf(wanted);
        };
    boolean capital = found != null && !found.isEmpty() && Character.isUpperCase(found.charAt(0));
    boolean all = capital && found.length() > 1 && found.equals(found.toUpperCase(Locale.ROOT));
    return all
        ? value.toUpperCase(Locale.ROOT)
        : capital ? value.substring(0, 1).toUpperCase(Locale.ROOT) + value.substring(1) : value;
  }

  static boolean isYes(@Nullable String value) {
    return value != null && value.toLowerCase(Locale.ROOT).matches("true|yes|on|1|enabled");
  }

  static boolean isNo(@Nullable String value) {
    return value != null && value.toLowerCase(Locale.ROOT).matches("false|no|off|0|disabled");
  }

  private static Optional<Double> number(@Nullable String value) {
    try {
      return value == null ? Optional.empty() : Optional.of(Double.valueOf(value.strip()));
    } catch (NumberFormatException noNumber) {
      return Optional.empty();
    }
  }

  private static Optional<Duration> interval(
      Question asks, Function<String, Optional<String>> value) {
    return Optional.ofNullable(asks.keys().get(Meaning.INTERVAL))
        .flatMap(value)
        .flatMap(SettingsAudit::number)
        .filter(n -> n > 0)
        .map(asks.unit()::of);
  }

  private static String words(Question asks, Meaning meaning, String found, String put) {
    String is =
        found == null
            ? "is not in the file"
            : switch (meaning) {
              case ENABLED, KEEP_EARLIER ->
                  isYes(found) ? "is on" : isNo(found) ? "is off" : "says “" + found + "”";
              case INTERVAL ->
                  number(found)
                      .map(n -> "is " + Words.age(asks.unit().of(n)))
                      .orElse("says “" + found + "”");
              case COUNT, FOLDER -> "is " + (found.isEmpty() ? "empty" : found);
            };
    return meaning.words() + " " + is + (put == null ? "" : ", wanted: " + wish(asks, meaning));
  }

  private static String wish(Question asks, Meaning meaning) {
    SettingsLink.Wanted w = asks.wanted();
    return switch (meaning) {
      case ENABLED -> w.enabled() ? "on" : "off";
      case KEEP_EARLIER -> w.keepEarlier() ? "on" : "off";
      case INTERVAL -> "at most " + Words.age(w.interval());
      case COUNT -> "at least " + w.count();
      case FOLDER -> w.folder();
    };
  }
}
