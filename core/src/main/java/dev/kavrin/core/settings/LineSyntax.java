package dev.kavrin.core.settings;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A key and a value on each line, apart by any separator, with or without sections in brackets.
 * Lines that begin with {@code # ; ! //} are comments; everything that is no pair is left alone.
 */
final class LineSyntax implements Syntax {
  private static final Pattern LINE = Pattern.compile("[^\\r\\n]*");
  private static final Pattern SECTION =
      Pattern.compile("\\s*\\[\\s*([^\\]]*?)\\s*\\]\\s*([;#].*)?");
  private static final Pattern COMMENT = Pattern.compile("\\s*(#|;|!|//|--).*");

  private final Pattern pair;
  private final boolean sections;
  private final boolean escapes;
  private final String separator;

  /**
   * @param separator what stands between key and value, blanks around it included or not
   * @param sections true if {@code [name]} opens a section
   * @param escapes true if a backslash escapes, as in Java properties
   */
  LineSyntax(String separator, boolean sections, boolean escapes) {
    this.separator = separator;
    this.sections = sections;
    this.escapes = escapes;
    String apart =
        separator.isBlank()
            ? "[ \\t]+"
            : "[ \\t]*"
                + (escapes
                    ? "[" + Pattern.quote(separator) + ":]"
                    : Pattern.quote(separator.strip()))
                + "[ \\t]*";
    this.pair = Pattern.compile("([ \\t]*)(\\S.*?)(" + apart + ")(.*?)([ \\t]*)");
  }

  private record Line(int from, int to) {}

  private static List<Line> lines(String text) {
    List<Line> lines = new ArrayList<>();
    Matcher matcher = LINE.matcher(text);
    while (matcher.find()) {
      lines.add(new Line(matcher.start(), matcher.end()));
    }
    return lines;
  }

  @Override
  public List<SettingsEntry> entries(String text) throws SettingsException {
    if (text.indexOf('\0') >= 0) {
      throw new SettingsException("It holds zero bytes, so it is no plain text");
    }
    List<SettingsEntry> entries = new ArrayList<>();
    String section = "";
    for (Line line : lines(text)) {
      String words = text.substring(line.from(), line.to());
      Matcher head = SECTION.matcher(words);
      if (sections && head.matches()) {
        section = head.group(1) + "/";
      } else if (!COMMENT.matcher(words).matches()) {
        Matcher found = pair.matcher(words);
        if (found.matches()) {
          int from = line.from() + found.start(4);
          int to = line.from() + valueEnd(found);
          String raw = text.substring(from, to);
          entries.add(new SettingsEntry(section + found.group(2), value(raw), from, to));
        }
      }
    }
    return entries;
  }

  /** In sections a comment may follow behind a blank. */
  private int valueEnd(Matcher found) {
    if (sections) {
      Matcher comment = Pattern.compile("[ \\t]+[;#].*$").matcher(found.group(4));
      if (!found.group(4).startsWith("\"") && comment.find()) {
        return found.start(4) + comment.start();
      }
    }
    return found.end(4);
  }

  private String value(String raw) {
    if (quote(raw) != 0) {
      return raw.substring(1, raw.length() - 1);
    }
    return escapes ? raw.replaceAll("\\\\(.)", "$1") : raw;
  }

  private static char quote(String raw) {
    char first = raw.length() < 2 ? 0 : raw.charAt(0);
    boolean quoted = (first == '"' || first == '\'') && raw.charAt(raw.length() - 1) == first;
    return quoted ? first : 0;
  }

  @Override
  public String raw(String value, String raw) throws SettingsException {
    if (value.indexOf('\n') >= 0 || value.indexOf('\r') >= 0) {
      throw new SettingsException("A value of more than one line cannot be written here");
    }
    char quote = quote(raw);
    if (quote != 0) {
      return quote + value + quote;
    }
    return escapes ? value.replace("\\", "\\\\") : value;
  }

  @Override
  public String added(String text, String key, String value) throws SettingsException {
    String parent = Syntax.parent(key);
    String end = Syntax.lineEnd(text);
    List<SettingsEntry> entries = entries(text);
    SettingsEntry last = null;
    for (SettingsEntry e : entries) {
      if (Syntax.parent(e.key()).equals(parent)) {
        last = e;
      }
    }
    String apart = separator.isBlank() ? " " : separator;
    if (last == null) {
      String open = text.isEmpty() || text.endsWith("\n") ? "" : end;
      String head = parent.isEmpty() ? "" : "[" + parent + "]" + end;
      return text + open + head + Syntax.name(key) + apart + raw(value, "") + end;
    }
    int lineEnd = last.to();
    while (lineEnd < text.length() && "\r\n".indexOf(text.charAt(lineEnd)) < 0) {
      lineEnd++;
    }
    int begin = last.from();
    int start = begin;
    while (start > 0 && text.charAt(start - 1) != '\n') {
      start--;
    }
    String before = text.substring(start, begin);
    String line = before.replace(Syntax.name(last.key()), Syntax.name(key)) + raw(value, "");
    return text.substring(0, lineEnd) + end + line + text.substring(lineEnd);
  }
}
