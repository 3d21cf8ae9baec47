package dev.kavrin.core.content.text;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What begins a section in plain text, by the ending of the file; common practice. */
public enum Headings {
  /** A name in brackets, as in settings. */
  BRACKETS("\\s*(\\[[^\\]]+\\]{1,2})\\s*", "ini", "cfg", "conf", "toml"),
  /** Number signs before a heading (CommonMark 0.31, section 4.2), as in notes. */
  SIGNS(" {0,3}(#{1,6}\\s+\\S.*?)\\s*#*\\s*", "md", "txt"),
  /** A keyword after one asterisk, as in input decks. */
  KEYWORDS("(\\*[A-Za-z].*?)\\s*", "inp");

  private final Pattern line;
  private final List<String> endings;

  Headings(String line, String... endings) {
    this.line = Pattern.compile(line);
    this.endings = List.of(endings);
  }

  static Optional<Headings> of(String ext) {
    return Arrays.stream(values()).filter(h -> h.areIn(ext)).findFirst();
  }

  boolean areIn(String ext) {
    return endings.contains(ext);
  }

  /** What a line calls the section it begins; empty for any other line. */
  Optional<String> in(String text) {
    Matcher matcher = line.matcher(text);
    return matcher.matches() ? Optional.of(matcher.group(1)) : Optional.empty();
  }
}
