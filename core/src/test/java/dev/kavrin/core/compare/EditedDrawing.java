package dev.kavrin.core.compare;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;

/** A drawing of layers and blocks, and known ways of editing one of them. */
final class EditedDrawing {
  private final Map<String, Outcome> expected = new LinkedHashMap<>();
  private final Map<String, Layer> layers = new LinkedHashMap<>();
  private final Map<String, List<Object[]>> blocks = new LinkedHashMap<>();
  private final Random random;

  /** Entities are codes and values in turn. */
  private record Layer(int colour, int flags, List<Object[]> entities) {
    Layer drawn(List<Object[]> others) {
      return new Layer(colour, flags, others);
    }
  }

  /** One known way. */
  interface Way {
    void of(EditedDrawing drawing, String layer);
  }

  static final Map<String, Way> WAYS = new LinkedHashMap<>();

  static {
    WAYS.put("a line more", (d, l) -> d.change(l, d.layer(l).drawn(d.more(l, d.line()))));
    WAYS.put("a circle more", (d, l) -> d.change(l, d.layer(l).drawn(d.more(l, d.circle()))));
    WAYS.put("a text more", (d, l) -> d.change(l, d.layer(l).drawn(d.more(l, d.words()))));
    WAYS.put("a polyline more", (d, l) -> d.change(l, d.layer(l).drawn(d.more(l, d.polyline()))));
    WAYS.put("one entity less", (d, l) -> d.change(l, d.layer(l).drawn(d.fewer(l, 1))));
    WAYS.put("emptied", (d, l) -> d.change(l, d.layer(l).drawn(List.of())));
    WAYS.put("one end moved", (d, l) -> d.change(l, d.layer(l).drawn(d.touched(l, 10, 0.004))));
    WAYS.put("all moved", (d, l) -> d.change(l, d.layer(l).drawn(d.shifted(l))));
    WAYS.put("coloured", (d, l) -> d.change(l, new Layer(14, 0, d.layer(l).entities())));
    WAYS.put("switched off", (d, l) -> d.change(l, new Layer(-7, 0, d.layer(l).entities())));
    WAYS.put("frozen", (d, l) -> d.change(l, new Layer(7, 1, d.layer(l).entities())));
    WAYS.put("removed", (d, l) -> d.put(l, null, Outcome.REMOVED));
    WAYS.put("renamed", EditedDrawing::rename);
    WAYS.put("a layer more", (d, l) -> d.put("Other " + l, d.drawnLayer(), Outcome.ADDED));
    WAYS.put("one rotated", (d, l) -> d.change(l, d.layer(l).drawn(d.touched(l, 50, 12))));
    WAYS.put("one recoloured", (d, l) -> d.change(l, d.layer(l).drawn(d.touched(l, 62, 3))));
    WAYS.put("a block drawn over", (d, l) -> d.block(d.fewerIn("Lamp"), Outcome.CHANGED));
    WAYS.put("a block less", (d, l) -> d.block(null, Outcome.REMOVED));
    WAYS.put("order of drawing", (d, l) -> d.put(l, d.layer(l).drawn(d.mixed(l)), Outcome.SAME));
  }

  EditedDrawing(long seed) {
    random = new Random(seed);
    for (int i = 0; i < 9; i++) {
      layers.put("Layer " + i, drawnLayer());
    }
    for (String name : List.of("Lamp", "Sleeper", "Bolt")) {
      blocks.put(name, drawnLayer().entities());
    }
  }

  private EditedDrawing(EditedDrawing from) {
    random = from.random;
    layers.putAll(from.layers);
    blocks.putAll(from.blocks);
  }

  private Layer drawnLayer() {
    List<Object[]> entities = new ArrayList<>();
    for (int i = 0; i < 5; i++) {
      entities.add(line());
      entities.add(circle());
      entities.add(words());
      entities.add(polyline());
    }
    return new Layer(7, 0, entities);
  }

  private double at() {
    return random.nextDouble() * 400 - 100;
  }

  private Object[] line() {
    return new Object[] {0, "LINE", 10, at(), 20, at(), 30, 0.0, 11, at(), 21, at(), 31, 0.0};
  }

  private Object[] circle() {
    return new Object[] {0, "CIRCLE", 10, at(), 20, at(), 30, 0.0, 40, 1 + random.nextInt(9)};
  }

  private Object[] words() {
    return new Object[] {
      0, "TEXT", 10, at(), 20, at(), 30, 0.0, 40, 2.5, 1, "Rail " + random.nextInt(900)
    };
  }

  private Object[] polyline() {
    return new Object[] {
      0, "LWPOLYLINE", 90, 3, 70, 1, 10, at(), 20, at(), 10, at(), 20, at(), 10, at(), 20, at()
    };
  }

  private Layer layer(String name) {
    return layers.get(name);
  }

  private List<Object[]> more(String name, Object[] entity) {
    List<Object[]> all = new ArrayList<>(layer(name).entities());
    all.add(random.nextInt(all.size()), entity);
    return all;
  }

  private List<Object[]> fewer(String name, int less) {
    List<Object[]> all = layer(name).entities();
    return all.subList(0, all.size() - less);
  }

  private List<Object[]> fewerIn(String block) {
    List<Object[]> all = blocks.getOrDefault(block, List.of());
    return all.isEmpty() ? all : all.subList(1, all.size());
  }

  /** Another value under a code of one entity, which may not have had it. */
  private List<Object[]> touched(String name, int code, double value) {
    List<Object[]> all = new ArrayList<>(layer(name).entities());
    int which = random.nextInt(all.size());
    Object[] entity = all.get(which).clone();
    for (int i = 2; i < entity.length; i += 2) {
      if (entity[i].equals(code)) {
        entity[i + 1] = (Double) entity[i + 1] + value;
        all.set(which, entity);
        return all;
      }
    }
    Object[] longer = java.util.Arrays.copyOf(entity, entity.length + 2);
    longer[entity.length] = code;
    longer[entity.length + 1] = (int) value;
    all.set(which, longer);
    return all;
  }

  private List<Object[]> shifted(String name) {
    List<Object[]> all = new ArrayList<>();
    for (Object[] entity : layer(name).entities()) {
      Object[] moved = entity.clone();
      for (int i = 2; i < moved.length; i += 2) {
        if (moved[i].equals(10) || moved[i].equals(11)) {
          moved[i + 1] = (Double) moved[i + 1] + 2.5;
        }
      }
      all.add(moved);
    }
    return all;
  }

  private List<Object[]> mixed(String name) {
    List<Object[]> all = new ArrayList<>(layer(name).entities());
    Collections.shuffle(all, random);
    return all;
  }

  private static void rename(EditedDrawing drawing, String name) {
    Layer layer = drawing.layers.remove(name);
    drawing.put("Other " + name, layer, Outcome.RENAMED);
  }

  private void change(String name, Layer layer) {
    put(name, layer, Outcome.CHANGED);
  }

  private void put(String name, Layer layer, Outcome outcome) {
    if (layer == null) {
      layers.remove(name);
    } else {
      layers.put(name, layer);
    }
    expected.put(name, outcome);
  }

  /** The block called Lamp, edited once at most. */
  private void block(List<Object[]> entities, Outcome outcome) {
    if (!expected.containsKey("Lamp")) {
      if (entities == null) {
        blocks.remove("Lamp");
      } else {
        blocks.put("Lamp", entities);
      }
      expected.put("Lamp", outcome);
    }
  }

  EditedDrawing edited(List<String> ways) {
    EditedDrawing after = new EditedDrawing(this);
    List<String> names = new ArrayList<>(layers.keySet());
    Collections.shuffle(names, random);
    for (int i = 0; i < ways.size(); i++) {
      WAYS.get(ways.get(i)).of(after, names.get(i));
    }
    return after;
  }

  Map<String, Outcome> expected() {
    Map<String, Outcome> differing = new LinkedHashMap<>(expected);
    differing.values().removeIf(o -> o == Outcome.SAME);
    return differing;
  }

  /** By one writer, or by another: other handles, fewer digits, what is usual said or not. */
  byte[] dxf(boolean another) {
    StringBuilder text = new StringBuilder();
    pairs(text, another, 0, "SECTION", 2, "TABLES", 0, "TABLE", 2, "LAYER");
    layers.forEach(
        (name, l) ->
            pairs(
                text,
                another,
                0,
                "LAYER",
                2,
                name,
                70,
                l.flags(),
                62,
                l.colour(),
                6,
                "CONTINUOUS"));
    pairs(text, another, 0, "ENDTAB", 0, "ENDSEC", 0, "SECTION", 2, "BLOCKS");
    blocks.forEach(
        (name, entities) -> {
          pairs(text, another, 0, "BLOCK", 8, "0", 2, name, 70, 0, 10, 0.0, 20, 0.0);
          entities.forEach(e -> entity(text, another, "0", e));
          pairs(text, another, 0, "ENDBLK");
        });
    pairs(text, another, 0, "ENDSEC", 0, "SECTION", 2, "ENTITIES");
    layers.forEach((name, l) -> l.entities().forEach(e -> entity(text, another, name, e)));
    pairs(text, another, 0, "ENDSEC", 0, "EOF");
    return text.toString().getBytes(StandardCharsets.ISO_8859_1);
  }

  private void entity(StringBuilder text, boolean another, String layer, Object[] entity) {
    pairs(text, another, entity[0], entity[1], 5, Integer.toHexString(random.nextInt(1 << 20)));
    if (another) {
      pairs(text, true, 330, "1F", 100, "AnyMark", 62, 256, 6, "BYLAYER", 39, 0.0, 210, 0.0);
    }
    pairs(text, another, 8, layer);
    pairs(text, another, java.util.Arrays.copyOfRange(entity, 2, entity.length));
  }

  private static void pairs(StringBuilder text, boolean another, Object... codesAndValues) {
    for (int i = 0; i < codesAndValues.length; i += 2) {
      Object value = codesAndValues[i + 1];
      text.append(another ? "%3d".formatted((Integer) codesAndValues[i]) : codesAndValues[i])
          .append('\n')
          .append(
              another && value instanceof Double number
                  ? String.format(Locale.ROOT, "%.7f", number)
                  : value)
          .append('\n');
    }
  }
}
