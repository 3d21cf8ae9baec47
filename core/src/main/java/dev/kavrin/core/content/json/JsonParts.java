package dev.kavrin.core.content.json;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.PartWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Values of JSON documents, or whole sections of them. */
public final class JsonParts implements PartWriter {
  private static final JsonMapper MAPPER =
      JsonMapper.builder().enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS).build();
  private static final int LARGEST = 64_000_000;

  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    JsonNode into = tree(base.in());
    List<Brought> brought = new ArrayList<>();
    for (Wanted some : wanted) {
      JsonNode from = tree(some.from().in());
      for (String path : some.parts()) {
        Step last =
            Step.to(from, path)
                .orElseThrow(() -> new CannotTake(path + " is not set in that version."));
        boolean replaced = Step.to(into, path).isPresent();
        put(into, from, path, last.value());
        brought.add(new Brought(path, path, replaced, List.of(), List.of()));
      }
    }
    out.write(MAPPER.writerWithDefaultPrettyPrinter().writeValueAsBytes(into));
    out.write('\n');
    return brought;
  }

  private static JsonNode tree(SeekableByteChannel in) throws IOException {
    if (in.size() > LARGEST) {
      throw new CannotTake("The file is too large to be taken apart. Restore the whole version.");
    }
    try {
      return MAPPER.readTree(Bytes.at(in, 0, (int) in.size()).array());
    } catch (JacksonException broken) {
      throw new CannotTake("One of the two files is no whole JSON.");
    }
  }

  /** One key or number on the way to a value; keys may hold slashes themselves. */
  private record Step(JsonNode above, String key, JsonNode value) {
    static Optional<Step> to(JsonNode from, String path) {
      if (from instanceof ArrayNode list) {
        int slash = path.indexOf('/');
        String key = slash < 0 ? path : path.substring(0, slash);
        int at = key.matches("\\d{1,9}") ? Integer.parseInt(key) : -1;
        JsonNode next = at < 0 ? null : list.get(at);
        return next == null ? Optional.empty() : on(from, key, next, path);
      }
      for (int slash = path.indexOf('/'); ; slash = path.indexOf('/', slash + 1)) {
        String key = slash < 0 ? path : path.substring(0, slash);
        JsonNode next = from.get(key);
        Optional<Step> found = next == null ? Optional.empty() : on(from, key, next, path);
        if (found.isPresent() || slash < 0) {
          return found;
        }
      }
    }

    private static Optional<Step> on(JsonNode above, String key, JsonNode value, String path) {
      return key.equals(path)
          ? Optional.of(new Step(above, key, value))
          : to(value, path.substring(key.length() + 1));
    }
  }

  private static void put(JsonNode into, JsonNode from, String path, JsonNode value)
      throws CannotTake {
    Optional<Step> there = Step.to(into, path);
    if (there.isPresent()) {
      set(there.get().above(), there.get().key(), value);
      return;
    }
    int slash = path.lastIndexOf('/');
    String key = path.substring(slash + 1);
    if (slash < 0) {
      set(into, key, value);
      return;
    }
    String parent = path.substring(0, slash);
    if (Step.to(into, parent).isEmpty()) {
      JsonNode like = Step.to(from, parent).map(Step::value).orElseThrow();
      put(
          into,
          from,
          parent,
          like.isArray() ? MAPPER.createArrayNode() : MAPPER.createObjectNode());
    }
    set(Step.to(into, parent).orElseThrow().value(), key, value);
  }

  private static void set(JsonNode above, String key, JsonNode value) throws CannotTake {
    if (above instanceof ObjectNode object) {
      object.set(key, value);
    } else if (above instanceof ArrayNode list && Integer.parseInt(key) < list.size()) {
      list.set(Integer.parseInt(key), value);
    } else if (above instanceof ArrayNode list && Integer.parseInt(key) == list.size()) {
      list.add(value);
    } else {
      throw new CannotTake(key + " has no place in the file as it is now.");
    }
  }
}
