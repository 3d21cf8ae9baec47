package dev.kavrin.core.profile;

import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NamePattern;
import java.util.Optional;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Turns a name that a program gave a copy into the pattern it was made by. */
public final class NameGuess {
  private static final Pattern MIXED =
      Pattern.compile("(?<![0-9A-Za-z])(?=[a-f]*\\d)(?=\\d*[a-f])[0-9a-f]{6,}(?![0-9A-Za-z])");
  private static final Pattern DIGITS = Pattern.compile("(?<!\\d)\\d{1,18}(?!\\d)");

  private NameGuess() {}

  /**
   * The pattern behind one name: the document's name and ending become holes, so do a time, a run
   * of mixed digits and letters, and the last number.
   *
   * @param stemElsewhere true if the folder names the document, so that the name need not
   * @return empty if nothing in the name tells its document, or nothing in it varies
   */
  public static Optional<NamePattern> of(String name, String documentName, boolean stemElsewhere) {
    FileName document = FileName.of(documentName);
    int at = name.indexOf(document.stem());
    if (at < 0 && !stemElsewhere) {
      return Optional.empty();
    }
    String framed =
        at < 0
            ? name
            : name.substring(0, at)
                + "{stem}"
                + withEnding(name.substring(at + document.stem().length()), document.ext());
    String timed = NamePattern.WRITTEN_TIME.matcher(framed).replaceFirst("{time}");
    String text = counted(MIXED.matcher(timed).replaceFirst("{any}"));
    try {
      NamePattern pattern = NamePattern.of(text);
      return pattern.parse(name).isPresent() ? Optional.of(pattern) : Optional.empty();
    } catch (IllegalArgumentException nothingVaries) {
      return Optional.empty();
    }
  }

  private static String withEnding(String rest, String ext) {
    return ext.isEmpty()
        ? rest
        : rest.replaceFirst(
            "\\." + Pattern.quote(ext) + "(?![0-9A-Za-z])", Matcher.quoteReplacement(".{ext}"));
  }

  /** The last number that is no part of a word becomes a counter. */
  private static String counted(String text) {
    MatchResult last = null;
    Matcher m = DIGITS.matcher(text);
    while (m.find()) {
      boolean inWord =
          m.start() > 0
              && m.end() < text.length()
              && Character.isLetter(text.charAt(m.start() - 1))
              && Character.isLetter(text.charAt(m.end()));
      last = inWord ? last : m.toMatchResult();
    }
    return last == null
        ? text
        : text.substring(0, last.start()) + "{n}" + text.substring(last.end());
  }
}
