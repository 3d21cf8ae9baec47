package dev.kavrin.core.content.dxf;

import com.dynatrace.hash4j.hashing.HashValue128;
import dev.kavrin.core.content.Box;
import dev.kavrin.core.content.Items;
import dev.kavrin.core.content.Measure;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/** Things drawn on one layer or in one block, in whatever order they stand in the file. */
final class Drawn {
  private final Map<String, Integer> types = new TreeMap<>();
  private final LineWork lines = new LineWork();
  private final boolean onLayers;
  private final List<Items.Item> items;
  private long entities;
  private int decimals;
  private long low;
  private long high;

  /**
   * @param onLayers true if they may be on any layer, as in a block
   * @param holding true to hold each thing, not only what they come to
   */
  Drawn(boolean onLayers, boolean holding) {
    this.onLayers = onLayers;
    items = holding ? new ArrayList<>() : null;
  }

  void add(DxfEntity entity) {
    HashValue128 hash = entity.canonical(onLayers);
    low += hash.getLeastSignificantBits();
    high += hash.getMostSignificantBits();
    types.merge(entity.type().toLowerCase(Locale.ROOT), 1, Integer::sum);
    lines.add(entity);
    entities++;
    decimals = Math.max(decimals, entity.decimals());
    if (items != null) {
      items.add(entity.item(onLayers));
    }
  }

  List<Items.Item> items() {
    return items == null ? List.of() : items;
  }

  /** The smallest length its numbers tell apart. */
  double precision() {
    return entities == 0 ? 0 : Math.pow(10, -decimals) / 2;
  }

  long entities() {
    return entities;
  }

  Box box() {
    return lines.box();
  }

  /** The same for the same things, in whatever order. */
  String digest() {
    return "%016x%016x-%d".formatted(high, low, entities);
  }

  Map<String, Measure> measures() {
    Map<String, Measure> measures = new LinkedHashMap<>();
    measures.put("entities", new Measure(entities, ""));
    measures.put("drawn length", new Measure(lines.length(), ""));
    Box box = lines.box();
    measures.put("extent", new Measure(box == null ? 0 : box.diagonal(), ""));
    types.forEach((type, count) -> measures.put("of which " + type, new Measure(count, "")));
    return measures;
  }
}
