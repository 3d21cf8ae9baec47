package dev.kavrin.core.naming;

import java.nio.charset.StandardCharsets;
import java.time.OffsetDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The name of a copy Kavrin made: {@code carriage.000042.2031-03-03T142008+0200.glb}. Name order is
 * work order, the hour reads right without Kavrin, and the ending stays.
 *
 * @param stem the document's name without ending, cut to fit
 * @param sequence birth number in its folder, up to 999,999 in name order
 * @param time when the content was written, local with offset, whole seconds
 * @param ext ending without dot, may be empty
 */
public record BackupName(String stem, long sequence, OffsetDateTime time, String ext) {
  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmssxx");
  private static final Pattern NAME =
      Pattern.compile(
          "(.+)\\.(\\d{6,})\\.(\\d{4}-\\d\\d-\\d\\dT\\d{6}[+-]\\d{4})(?:\\.([^.]+))?",
          Pattern.DOTALL);

  public static BackupName of(String fileName, long sequence, OffsetDateTime time) {
    FileName parts = FileName.of(fileName).shortEnding();
    return new BackupName(parts.stem(), sequence, time.withNano(0), parts.ext());
  }

  /** Empty if the name is not one of ours. */
  public static Optional<BackupName> parse(String name) {
    Matcher m = NAME.matcher(name);
    if (!m.matches()) {
      return Optional.empty();
    }
    try {
      return Optional.of(
          new BackupName(
              m.group(1),
              Long.parseLong(m.group(2)),
              OffsetDateTime.parse(m.group(3), TIME),
              m.group(4) == null ? "" : m.group(4)));
    } catch (DateTimeParseException | NumberFormatException notOurs) {
      return Optional.empty();
    }
  }

  /** The file name, never longer than {@link FileName#LONGEST} bytes; only the stem is cut. */
  public String written() {
    String tail =
        String.format(".%06d.%s%s", sequence, TIME.format(time), ext.isEmpty() ? "" : "." + ext);
    return FileName.cut(stem, FileName.LONGEST - tail.getBytes(StandardCharsets.UTF_8).length)
        + tail;
  }
}
