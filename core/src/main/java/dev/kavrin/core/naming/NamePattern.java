package dev.kavrin.core.naming;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A file name with holes: {@code {stem} {ext} {n} {time} {step} {any}}. Parses names and makes
 * them. Times are written in ISO 8601 basic form, {@code 20310503T142008}; read are other digits in
 * that order too, such as {@code 2031-05-03_14-20}.
 */
public final class NamePattern {
  private static final Pattern TOKEN = Pattern.compile("\\{(stem|ext|n|time|step|any)}");
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss");

  private static final String TIMES =
      "\\d{4}-?\\d\\d-?\\d\\d[T_ .-]?\\d\\d[-:.h_]?\\d\\d(?:[-:.m_]?\\d\\d)?(?:Z|[+-]\\d{4})?";

  /** A time as programs write it into names. */
  public static final Pattern WRITTEN_TIME = Pattern.compile(TIMES);

  private enum Token {
    STEM("(.+?)"),
    EXT("([^.]+)"),
    N("(\\d{1,18})"),
    TIME("(" + TIMES + ")"),
    STEP("(\\d{1,18})"),
    ANY("(.*?)");

    private final String group;

    Token(String group) {
      this.group = group;
    }
  }

  private final String text;
  private final List<Object> pieces = new ArrayList<>();
  private final List<Token> tokens = new ArrayList<>();
  private final Pattern regex;

  private NamePattern(String text) {
    this.text = text;
    StringBuilder expression = new StringBuilder();
    Matcher m = TOKEN.matcher(text);
    int from = 0;
    while (m.find()) {
      literal(text.substring(from, m.start()), expression);
      Token token = Token.valueOf(m.group(1).toUpperCase(java.util.Locale.ROOT));
      pieces.add(token);
      tokens.add(token);
      expression.append(token.group);
      from = m.end();
    }
    literal(text.substring(from), expression);
    regex = Pattern.compile(expression.toString(), Pattern.DOTALL);
  }

  /** True if it holds that hole. */
  public boolean tellsStem() {
    return tokens.contains(Token.STEM);
  }

  /** True if several names fit it that tell the same stem, time and step. */
  public boolean tellsParts() {
    return tokens.contains(Token.N) || tokens.contains(Token.ANY);
  }

  private void literal(String piece, StringBuilder expression) {
    if (!piece.isEmpty()) {
      pieces.add(piece);
      expression.append(Pattern.quote(piece));
    }
  }

  /**
   * @throws IllegalArgumentException empty, names a folder, has no hole, or one hole twice
   */
  @JsonCreator
  public static NamePattern of(String text) {
    if (text.isBlank() || text.contains("/") || text.contains("\0")) {
      throw new IllegalArgumentException(
          "A name pattern is one file name without folders, got '" + text + "'");
    }
    NamePattern pattern = new NamePattern(text);
    Set<Token> once = EnumSet.noneOf(Token.class);
    for (Token token : pattern.tokens) {
      if (!once.add(token)) {
        throw new IllegalArgumentException(
            "'" + text + "' has {" + token.name().toLowerCase(java.util.Locale.ROOT) + "} twice");
      }
    }
    if (once.isEmpty()) {
      throw new IllegalArgumentException("'" + text + "' has no hole such as {stem}");
    }
    return pattern;
  }

  /** Empty if the name does not fit, or fits but tells an impossible time. */
  public Optional<NameFields> parse(String name) {
    return parse(name, regex);
  }

  /**
   * The same, read as the name of one document's copy: what stands in {@code {stem}} and {@code
   * {ext}} is that document's.
   */
  public Optional<NameFields> parse(String name, FileName document) {
    if (tellsStem() && !name.contains(document.stem())) {
      return Optional.empty();
    }
    StringBuilder expression = new StringBuilder();
    for (Object piece : pieces) {
      if (piece == Token.STEM) {
        expression.append('(').append(Pattern.quote(document.stem())).append(')');
      } else if (piece == Token.EXT) {
        expression.append("((?i:").append(Pattern.quote(document.ext())).append("))");
      } else {
        expression.append(piece instanceof Token t ? t.group : Pattern.quote((String) piece));
      }
    }
    return parse(name, Pattern.compile(expression.toString(), Pattern.DOTALL));
  }

  private Optional<NameFields> parse(String name, Pattern regex) {
    Matcher m = regex.matcher(name);
    if (!m.matches()) {
      return Optional.empty();
    }
    NameFields fields = NameFields.of("", "");
    try {
      for (int i = 0; i < tokens.size(); i++) {
        fields = with(fields, tokens.get(i), m.group(i + 1));
      }
    } catch (DateTimeException impossible) {
      return Optional.empty();
    }
    return Optional.of(fields);
  }

  private static NameFields with(NameFields f, Token token, String value) {
    return switch (token) {
      case STEM -> new NameFields(value, f.ext(), f.number(), f.time(), f.step(), f.any());
      case EXT -> new NameFields(f.stem(), value, f.number(), f.time(), f.step(), f.any());
      case N -> f.withNumber(Long.parseLong(value), value.length());
      case TIME -> f.withTime(time(value));
      case STEP -> f.withStep(Long.parseLong(value), value.length());
      case ANY -> new NameFields(f.stem(), f.ext(), f.number(), f.time(), f.step(), value);
    };
  }

  /** Minutes are enough; a zone behind it does not count. */
  private static LocalDateTime time(String written) {
    String digits = written.replaceFirst("[+-]\\d{4}$", "").replaceAll("\\D", "");
    return LocalDateTime.parse(
        digits.substring(0, 8)
            + "T"
            + digits.substring(8)
            + "00".repeat(digits.length() == 12 ? 1 : 0),
        TIME);
  }

  /**
   * Fills the holes.
   *
   * @throws IllegalArgumentException a hole has nothing to fill it
   */
  public String format(NameFields fields) {
    StringBuilder name = new StringBuilder();
    for (Object piece : pieces) {
      name.append(piece instanceof Token token ? written(token, fields) : piece);
    }
    return name.toString();
  }

  private String written(Token token, NameFields f) {
    String value =
        switch (token) {
          case STEM -> f.stem().isEmpty() ? null : f.stem();
          case EXT -> f.ext().isEmpty() ? null : f.ext();
          case N -> f.number() == null ? null : f.number().written();
          case TIME -> f.time() == null ? null : TIME.format(f.time());
          case STEP -> f.step() == null ? null : f.step().written();
          case ANY -> f.any();
        };
    if (value == null) {
      throw new IllegalArgumentException("Nothing to fill {" + token + "} of '" + text + "' with");
    }
    return value;
  }

  @Override
  @JsonValue
  public String toString() {
    return text;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof NamePattern that && that.text.equals(text);
  }

  @Override
  public int hashCode() {
    return text.hashCode();
  }
}
