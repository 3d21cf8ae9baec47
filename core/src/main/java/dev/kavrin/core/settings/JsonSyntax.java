package dev.kavrin.core.settings;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.json.JsonReadFeature;
import tools.jackson.databind.json.JsonMapper;

/** JSON (RFC 8259), comments allowed. Members of an array are named by their number. */
final class JsonSyntax implements Syntax {
  private static final JsonMapper MAPPER =
      JsonMapper.builder().enable(JsonReadFeature.ALLOW_JAVA_COMMENTS).build();

  /** An open object or array. */
  private static final class Braces extends Level {
    private final int opened;
    private int behind;

    Braces(Level parent, boolean numbered, int opened) {
      super(parent, numbered);
      this.opened = opened;
      this.behind = opened + 1;
    }
  }

  /** An object as it stands; {@code behind} its last member, or its brace if it is empty. */
  private record Block(String path, int opened, int behind, int closed) {
    boolean isEmpty() {
      return behind == opened + 1;
    }
  }

  private record Scan(List<SettingsEntry> entries, List<Block> objects) {}

  @Override
  public List<SettingsEntry> entries(String text) throws SettingsException {
    return scan(text).entries();
  }

  private static Scan scan(String text) throws SettingsException {
    List<SettingsEntry> entries = new ArrayList<>();
    List<Block> objects = new ArrayList<>();
    Deque<Braces> open = new ArrayDeque<>();
    try (JsonParser parser = MAPPER.createParser(text)) {
      for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
        int from = (int) parser.currentTokenLocation().getCharOffset();
        Braces level = open.peek();
        switch (token) {
          case PROPERTY_NAME -> level.name(parser.currentName());
          case START_OBJECT -> open.push(new Braces(level, false, from));
          case START_ARRAY -> open.push(new Braces(level, true, from));
          case END_OBJECT -> {
            Braces done = open.pop();
            objects.add(new Block(done.path(), done.opened, done.behind, from));
            closed(open, from + 1);
          }
          case END_ARRAY -> {
            open.pop();
            closed(open, from + 1);
          }
          default -> {
            String value = parser.getString();
            int to = end(text, from, token == JsonToken.VALUE_STRING, value);
            entries.add(new SettingsEntry(Level.member(level), value, from, to));
            closed(open, to);
          }
        }
      }
    } catch (JacksonException broken) {
      throw new SettingsException("It is no JSON: " + broken.getOriginalMessage());
    }
    return new Scan(entries, objects);
  }

  private static void closed(Deque<Braces> open, int at) {
    if (!open.isEmpty()) {
      open.peek().behind = at;
    }
  }

  private static int end(String text, int from, boolean quoted, String value) {
    if (!quoted) {
      return from + value.length();
    }
    int at = from + 1;
    while (text.charAt(at) != '"') {
      at += text.charAt(at) == '\\' ? 2 : 1;
    }
    return at + 1;
  }

  /** What was a string stays one; a number or a truth value is written bare. */
  @Override
  public String raw(String value, String raw) {
    boolean bare = value.matches("-?(0|[1-9]\\d*)(\\.\\d+)?|true|false|null");
    return bare && !raw.startsWith("\"") ? value : MAPPER.writeValueAsString(value);
  }

  @Override
  public String added(String text, String key, String value) throws SettingsException {
    String parent = Syntax.parent(key);
    Block block =
        scan(text).objects().stream()
            .filter(o -> o.path().equals(parent))
            .findFirst()
            .orElseThrow(() -> new SettingsException("There is no " + parent + " to put it into"));
    String member = MAPPER.writeValueAsString(Syntax.name(key)) + ": " + raw(value, "");
    String inside = text.substring(block.opened(), block.closed());
    String gap = inside.contains("\n") ? Syntax.lineEnd(text) + indent(text, block) : " ";
    return text.substring(0, block.behind())
        + (block.isEmpty() ? "" : ",")
        + gap
        + member
        + text.substring(block.behind());
  }

  /** That of the line with the closing brace, and two more. */
  private static String indent(String text, Block block) {
    int start = text.lastIndexOf('\n', block.closed()) + 1;
    return text.substring(start, block.closed()).replaceAll("\\S.*", "") + "  ";
  }
}
