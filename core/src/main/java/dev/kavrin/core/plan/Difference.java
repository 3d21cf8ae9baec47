package dev.kavrin.core.plan;

import dev.kavrin.core.units.Words;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What differs between two settings of one kind, value by value, in words. */
public final class Difference {
  private static final JsonMapper MAPPER =
      JsonMapper.builder()
          .disable(tools.jackson.databind.cfg.DateTimeFeature.WRITE_DURATIONS_AS_TIMESTAMPS)
          .build();

  private Difference() {}

  /** "keep newest: 6 → 19"; empty if they are the same. */
  public static List<String> of(Object before, Object after) {
    Map<String, String> old = flat(MAPPER.valueToTree(before));
    Map<String, String> now = flat(MAPPER.valueToTree(after));
    TreeSet<String> keys = new TreeSet<>(old.keySet());
    keys.addAll(now.keySet());
    List<String> lines = new ArrayList<>();
    for (String key : keys) {
      String was = old.getOrDefault(key, "none");
      String is = now.getOrDefault(key, "none");
      if (!was.equals(is)) {
        lines.add(key + ": " + was + " → " + is);
      }
    }
    return lines;
  }

  private static Map<String, String> flat(JsonNode node) {
    Map<String, String> flat = new LinkedHashMap<>();
    into(flat, "", node);
    return flat;
  }

  private static void into(Map<String, String> flat, String path, JsonNode node) {
    if (node.isObject()) {
      node.properties()
          .forEach(p -> into(flat, (path + " " + spoken(p.getKey())).strip(), p.getValue()));
    } else if (node.isArray()) {
      for (int i = 0; i < node.size(); i++) {
        into(flat, path + " " + (i + 1), node.get(i));
      }
    } else if (!node.isNull()) {
      flat.put(path, value(node));
    }
  }

  private static String spoken(String key) {
    return key.replaceAll("([a-z])([A-Z])", "$1 $2").toLowerCase(java.util.Locale.ROOT);
  }

  private static String value(JsonNode node) {
    if (node.isBoolean()) {
      return node.booleanValue() ? "on" : "off";
    }
    String text = node.asString();
    return text.isEmpty()
        ? "none"
        : text.matches("PT[0-9HMS.]+") ? Words.age(Duration.parse(text)) : text;
  }
}
