package dev.kavrin.core.naming;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Locale;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A file name in two pieces. A leading dot belongs to the stem.
 *
 * @param stem before the last dot
 * @param ext behind it, without the dot; empty if there is none
 */
public record FileName(String stem, String ext) {
  private static final Pattern RISING = Pattern.compile("(.*?)([-_.]?)(\\d{1,9})", Pattern.DOTALL);

  public static FileName of(String name) {
    int dot = name.lastIndexOf('.');
    return dot <= 0 || dot == name.length() - 1
        ? new FileName(name, "")
        : new FileName(name.substring(0, dot), name.substring(dot + 1));
  }

  public String written() {
    return ext.isEmpty() ? stem : stem + "." + ext;
  }

  public String lowerExt() {
    return ext.toLowerCase(Locale.ROOT);
  }

  /** The number at the end of the stem, if there is one. */
  public OptionalInt trailingNumber() {
    Matcher m = RISING.matcher(stem);
    return m.matches() ? OptionalInt.of(Integer.parseInt(m.group(3))) : OptionalInt.empty();
  }

  /** The name with its number raised by {@code steps}; "-02" is put behind a stem without one. */
  public FileName next(int steps) {
    Matcher m = RISING.matcher(stem);
    if (!m.matches()) {
      return new FileName(stem + String.format("-%02d", 1 + steps), ext);
    }
    long raised = Long.parseLong(m.group(3)) + steps;
    String digits = String.format("%0" + m.group(3).length() + "d", raised);
    return new FileName(m.group(1) + m.group(2) + digits, ext);
  }

  /** What the names of a save-as chain share: all but the number at the end and what joins it. */
  public FileName chain() {
    Matcher m = RISING.matcher(stem);
    return new FileName(m.matches() && !m.group(1).isEmpty() ? m.group(1) : stem, lowerExt());
  }

  /** Longest name of a file, in bytes of UTF-8, that practically every file system takes. */
  public static final int LONGEST = 255;

  /** An ending longer than this is no ending, but part of the name. */
  private static final int LONGEST_ENDING = 32;

  /** The name with something before it, cut behind so that it is no longer than names may be. */
  public static String prefixed(String prefix, Path file) {
    return cut(prefix + file.getFileName(), LONGEST);
  }

  /** The name with something behind its stem; the stem is cut so that all of it fits. */
  public FileName withSuffix(String suffix) {
    return withSuffix(suffix, 0);
  }

  /**
   * The same where something is still to come.
   *
   * @param spare bytes that stay free
   */
  public FileName withSuffix(String suffix, int spare) {
    FileName whole = shortEnding();
    String tail = suffix + (whole.ext.isEmpty() ? "" : "." + whole.ext);
    int left = LONGEST - spare - tail.getBytes(StandardCharsets.UTF_8).length;
    return new FileName(cut(whole.stem, left) + suffix, whole.ext);
  }

  /** What only looks like an ending, being far too long, counts as part of the stem. */
  public FileName shortEnding() {
    return ext.getBytes(StandardCharsets.UTF_8).length <= LONGEST_ENDING
        ? this
        : new FileName(written(), "");
  }

  /** Cuts to at most {@code bytes} of UTF-8 without splitting a character. */
  static String cut(String text, int bytes) {
    if (text.getBytes(StandardCharsets.UTF_8).length <= bytes) {
      return text;
    }
    int end = text.length();
    while (text.substring(0, end).getBytes(StandardCharsets.UTF_8).length > bytes) {
      end = text.offsetByCodePoints(end, -1);
    }
    return text.substring(0, end);
  }
}
