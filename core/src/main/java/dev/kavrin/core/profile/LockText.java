package dev.kavrin.core.profile;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import jakarta.annotation.Nullable;
import java.util.LinkedHashSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a program writes into its lock files: text with the holes {@code {pid} {host} {user} {any}}.
 * It may stand anywhere in the file; any white space fits any.
 */
public final class LockText {
  private static final Pattern TOKEN = Pattern.compile("\\{(pid|host|user|any)}");

  private enum Hole {
    PID("(?<pid>\\d{1,10})"),
    HOST("(?<host>[\\p{L}\\d][\\p{L}\\d.-]*)"),
    USER("(?<user>[\\p{L}\\d._-]+(?: [\\p{L}\\d._-]+)*)"),
    ANY(".*?");

    private final String group;

    Hole(String group) {
      this.group = group;
    }
  }

  private final String text;
  private final Set<Hole> holes = new LinkedHashSet<>();
  private final Pattern regex;

  private LockText(String text) {
    this.text = text;
    StringBuilder expression = new StringBuilder();
    Matcher token = TOKEN.matcher(text);
    int from = 0;
    while (token.find()) {
      literal(text.substring(from, token.start()), expression);
      Hole hole = Hole.valueOf(token.group(1).toUpperCase(Locale.ROOT));
      if (!holes.add(hole) && hole != Hole.ANY) {
        throw new IllegalArgumentException("'" + text + "' has " + token.group() + " twice");
      }
      expression.append(hole.group);
      from = token.end();
    }
    literal(text.substring(from), expression);
    holes.remove(Hole.ANY);
    regex = Pattern.compile(expression.toString(), Pattern.DOTALL);
  }

  private static void literal(String piece, StringBuilder expression) {
    for (String word : piece.split("(?<=\\s)(?=\\S)|(?<=\\S)(?=\\s)")) {
      if (!word.isEmpty()) {
        expression.append(word.isBlank() ? "\\s+" : Pattern.quote(word));
      }
    }
  }

  /**
   * @throws IllegalArgumentException it tells neither process, machine nor user, or one of them
   *     twice
   */
  @JsonCreator
  public static LockText of(String text) {
    LockText read = new LockText(text.strip());
    if (read.holes.isEmpty()) {
      throw new IllegalArgumentException(
          "The text of a lock file needs {pid}, {host} or {user}, got '" + text + "'");
    }
    return read;
  }

  /** Who has a document open, as far as its lock file says. */
  public record Says(@Nullable Long pid, @Nullable String host, @Nullable String user) {}

  /** What a lock file says; empty if it is written in another way. */
  public Optional<Says> read(String content) {
    Matcher found = regex.matcher(content);
    if (!found.find()) {
      return Optional.empty();
    }
    return Optional.of(
        new Says(
            holes.contains(Hole.PID) ? Long.valueOf(found.group("pid")) : null,
            holes.contains(Hole.HOST) ? found.group("host").replaceFirst("[.-]+$", "") : null,
            holes.contains(Hole.USER) ? found.group("user") : null));
  }

  @JsonValue
  @Override
  public String toString() {
    return text;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof LockText o && text.equals(o.text);
  }

  @Override
  public int hashCode() {
    return text.hashCode();
  }
}
