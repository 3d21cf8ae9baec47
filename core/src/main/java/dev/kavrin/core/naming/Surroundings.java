package dev.kavrin.core.naming;

import java.nio.file.Path;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What {@code ~} and {@code $NAME} in a path mean.
 *
 * @param home folder of the person Kavrin runs as
 * @param variables null for one that is not set
 */
public record Surroundings(Path home, UnaryOperator<String> variables) {
  private static final Pattern VARIABLE = Pattern.compile("\\$\\{?(\\w+)}?");

  /** Those of this process. */
  public static Surroundings here() {
    return new Surroundings(Path.of(System.getProperty("user.home")), System::getenv);
  }

  /**
   * The text with both filled in.
   *
   * @throws IllegalArgumentException a variable is not set
   */
  public String filled(String text) {
    String rooted = text.equals("~") || text.startsWith("~/") ? home + text.substring(1) : text;
    Matcher matcher = VARIABLE.matcher(rooted);
    StringBuilder filled = new StringBuilder();
    while (matcher.find()) {
      String value = variables.apply(matcher.group(1));
      if (value == null) {
        throw new IllegalArgumentException(
            text + ": " + matcher.group() + " is not set where Kavrin runs");
      }
      matcher.appendReplacement(filled, Matcher.quoteReplacement(value));
    }
    return matcher.appendTail(filled).toString();
  }
}
