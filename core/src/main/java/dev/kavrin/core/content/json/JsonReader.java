package dev.kavrin.core.content.json;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.Unclosed;
import java.io.IOException;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.exc.JacksonIOException;
import tools.jackson.databind.json.JsonMapper;

/**
 * JSON (RFC 8259), read to its end without being held. Its parts are the keys, each by its path; a
 * number under the top-level key {@code step} is the step it holds.
 */
public final class JsonReader implements ContentReader {
  private static final int MOST_PARTS = 5_000;

  @Override
  public boolean reads(String ext) {
    return ext.equals("json");
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    in.position(0);
    if (in.size() == 0) {
      return new Reading(
          inventory(List.of(), null),
          List.of(Finding.damaged("empty", 0, "The file is empty: 0 bytes.")));
    }
    Walk walk = new Walk();
    List<Finding> findings = new ArrayList<>();
    try (JsonParser parser =
        JsonMapper.shared().createParser(Channels.newInputStream(new Unclosed(in)))) {
      walk.through(parser);
      if (parser.nextToken() != null) {
        long at = parser.currentTokenLocation().getByteOffset();
        findings.add(Finding.doubtful("more-behind", at, "Something more stands behind its end."));
      }
    } catch (JacksonIOException device) {
      throw device.getCause();
    } catch (JacksonException broken) {
      long at = broken.getLocation() == null ? -1 : broken.getLocation().getByteOffset();
      boolean cut = at < 0 || at >= in.size();
      findings.add(
          Finding.damaged(
              cut ? "cut-short" : "not-json",
              at,
              cut
                  ? "It ends in the middle of a value, after " + in.size() + " bytes."
                  : "At byte " + at + " it is no JSON: " + broken.getOriginalMessage()));
    }
    return new Reading(inventory(walk.parts, walk.step), findings);
  }

  private static Inventory inventory(List<Part> parts, Long step) {
    return Inventory.ofStep("json", parts, List.of(), step);
  }

  /** Goes through the tokens and notes the scalar values, each under its path. */
  private static final class Walk {
    private final List<Part> parts = new ArrayList<>();
    private final Deque<Level> levels = new ArrayDeque<>();
    private Long step;

    private static final class Level {
      private final String path;
      private final boolean list;
      private int next;
      private String key = "";

      Level(String path, boolean list) {
        this.path = path;
        this.list = list;
      }

      String child() {
        String name = list ? String.valueOf(next++) : key;
        return path.isEmpty() ? name : path + "/" + name;
      }
    }

    void through(JsonParser parser) {
      JsonToken token = parser.nextToken();
      if (token == null) {
        return;
      }
      do {
        switch (token) {
          case START_OBJECT, START_ARRAY -> levels.push(below(token == JsonToken.START_ARRAY));
          case END_OBJECT, END_ARRAY -> levels.pop();
          case PROPERTY_NAME -> levels.peek().key = parser.currentName();
          default -> value(parser, token);
        }
        if (levels.isEmpty()) {
          return;
        }
        token = parser.nextToken();
      } while (token != null);
    }

    private Level below(boolean list) {
      return new Level(levels.isEmpty() ? "" : levels.peek().child(), list);
    }

    /** The same for 1e3, 1000 and 1000.0. */
    private static String canonical(JsonParser parser) {
      return parser.getDecimalValue().stripTrailingZeros().toString();
    }

    private void value(JsonParser parser, JsonToken token) {
      String path = levels.isEmpty() ? "value" : levels.peek().child();
      boolean number = token.isNumeric();
      if (path.equals("step") && token == JsonToken.VALUE_NUMBER_INT) {
        step = parser.getValueAsLong();
      }
      if (parts.size() < MOST_PARTS) {
        Map<String, Measure> measures =
            number ? Map.of("value", new Measure(parser.getDoubleValue(), "")) : Map.of();
        String exact =
            ContentHash.of(number ? canonical(parser) : token + parser.getString()).digest();
        String label = path.substring(path.lastIndexOf('/') + 1);
        parts.add(Part.of(path, null, label, "setting", measures, exact));
      }
    }
  }
}
