package dev.kavrin.core.naming;

import java.time.LocalDateTime;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What a file name tells, as far as a pattern asks for it.
 *
 * @param stem the document's name without ending; empty if the pattern has none
 * @param ext ending without dot; empty if the pattern has none
 * @param number counter, and how many digits it was written with
 * @param time local time of the place, without zone
 * @param step solver step
 * @param any whatever the pattern lets through
 */
public record NameFields(
    String stem, String ext, Counter number, LocalDateTime time, Counter step, String any) {

  /**
   * A number as written in a name.
   *
   * @param value not negative
   * @param digits written width, zero-padded; at least 1
   */
  public record Counter(long value, int digits) {
    public Counter {
      if (value < 0 || digits < 1) {
        throw new IllegalArgumentException("Counter " + value + " with " + digits + " digits");
      }
    }

    String written() {
      return String.format("%0" + digits + "d", value);
    }
  }

  public static NameFields of(String stem, String ext) {
    return new NameFields(stem, ext, null, null, null, "");
  }

  public NameFields withNumber(long value, int digits) {
    return new NameFields(stem, ext, new Counter(value, digits), time, step, any);
  }

  public NameFields withTime(LocalDateTime local) {
    return new NameFields(stem, ext, number, local, step, any);
  }

  public NameFields withStep(long value, int digits) {
    return new NameFields(stem, ext, number, time, new Counter(value, digits), any);
  }

  /** The same, and what another name tells beyond it; parts of both. */
  public NameFields or(NameFields other) {
    return new NameFields(
        stem.isEmpty() ? other.stem : stem,
        ext.isEmpty() ? other.ext : ext,
        null,
        time == null ? other.time : time,
        step == null ? other.step : step,
        Stream.of(part(), other.part()).filter(p -> !p.isEmpty()).collect(Collectors.joining("/")));
  }

  /** What tells it from names of the same stem, time and step; empty if nothing does. */
  public String part() {
    return (number == null ? "" : number.written()) + any;
  }

  public OptionalLong counter() {
    return number == null ? OptionalLong.empty() : OptionalLong.of(number.value());
  }

  public Optional<LocalDateTime> localTime() {
    return Optional.ofNullable(time);
  }
}
