package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.DrawingReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.ItemReader;
import dev.kavrin.core.content.Items;
import dev.kavrin.core.content.Lines;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.SiblingFiles;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.channels.SeekableByteChannel;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * DXF in its text form, read pair by pair to the end mark. Its parts are the layers and the named
 * blocks, each with its entities; its links the pictures that image definitions name and the
 * drawings that blocks refer to. Source: the published DXF reference (from memory): a group code on
 * one line, its value on the next, {@code 0/EOF} last.
 */
public final class DxfReader implements ItemReader, DrawingReader {
  private static final String BLOCKS = "blocks/";
  private static final long LARGEST_HELD = 64_000_000;
  private static final BigDecimal EPOCH = new BigDecimal("2440587.5");
  private static final BigDecimal MILLIS_A_DAY = BigDecimal.valueOf(86_400_000);

  @Override
  public boolean reads(String ext) {
    return ext.equals("dxf");
  }

  @Override
  public Reading read(SeekableByteChannel in, SiblingFiles beside) throws IOException {
    return read(in, new Drawing(new Readings("dxf"), false));
  }

  @Override
  public Items items(SeekableByteChannel in) throws IOException {
    Drawing drawing = new Drawing(new Readings("dxf"), true);
    return in.size() > LARGEST_HELD || read(in, drawing).damaged() ? Items.NONE : drawing::items;
  }

  @Override
  public Lines lines(SeekableByteChannel in) throws IOException {
    return in.size() > LARGEST_HELD ? sink -> {} : DxfLines.of(in);
  }

  private static Reading read(SeekableByteChannel in, Drawing drawing) throws IOException {
    Readings readings = drawing.readings;
    if (in.size() == 0) {
      return readings.empty();
    }
    try {
      DxfWalk.through(in, drawing);
    } catch (DxfPairs.NoPair broken) {
      readings.found(
          broken.isCut()
              ? Finding.damaged(
                  "cut-short",
                  in.size(),
                  "It ends before its end mark, after " + in.size() + " bytes.")
              : Finding.damaged("not-dxf", -1, broken.getMessage()));
    }
    return drawing.reading();
  }

  /** A layer's own switches, from the table of layers. */
  private record Switches(boolean off, boolean frozen, String look) {
    private static final Switches USUAL = new Switches(false, false, "");

    static Switches of(DxfEntity layer) {
      return new Switches(
          layer.number(62, 7) < 0,
          ((int) layer.number(70, 0) & 1) == 1,
          Math.abs((int) layer.number(62, 7)) + " " + layer.first(6).orElse("CONTINUOUS"));
    }
  }

  /** What was read so far. */
  private static final class Drawing implements DxfWalk.Visitor {
    private final Readings readings;
    private final boolean holding;
    private final Map<String, Drawn> layers = new LinkedHashMap<>();
    private final Map<String, Switches> switches = new LinkedHashMap<>();
    private final Map<String, Drawn> blocks = new TreeMap<>();
    private final Map<String, Integer> inserted = new TreeMap<>();

    Drawing(Readings readings, boolean holding) {
      this.readings = readings;
      this.holding = holding;
    }

    List<Items.Item> items(String part) {
      Drawn drawn = part.startsWith(BLOCKS) ? blocks.get(part.substring(BLOCKS.length())) : null;
      return drawn == null && layers.containsKey(part)
          ? layers.get(part).items()
          : drawn == null ? List.of() : drawn.items();
    }

    @Override
    public void header(String variable, int code, String value) {
      if (code == 40 && variable.equals("$TDUUPDATE")) {
        julian(value).ifPresent(readings::saved);
      }
    }

    @Override
    public void record(DxfEntity record) {
      switch (record.type()) {
        case "LAYER" -> record.first(2).ifPresent(name -> switches.put(name, Switches.of(record)));
        case "IMAGEDEF" -> record.first(1).ifPresent(path -> link(path, "picture"));
        default ->
            record
                .first(1)
                .filter(path -> !path.isEmpty())
                .ifPresent(path -> link(path, "reference"));
      }
    }

    @Override
    public void drawn(@Nullable String block, DxfEntity entity) {
      if (block == null) {
        layers.computeIfAbsent(entity.layer(), k -> new Drawn(false, holding)).add(entity);
      } else if (!block.startsWith("*")) {
        blocks.computeIfAbsent(block, k -> new Drawn(true, holding)).add(entity);
      }
      if (entity.type().equals("INSERT")) {
        entity.first(2).ifPresent(name -> inserted.merge(name, 1, Integer::sum));
      }
    }

    private void link(String path, String kind) {
      readings.link(new Link(path.replace('\\', '/'), kind));
    }

    Reading reading() {
      switches
          .keySet()
          .forEach(name -> layers.computeIfAbsent(name, k -> new Drawn(false, holding)));
      double precision = 0;
      long empty = 0;
      for (Map.Entry<String, Drawn> layer : layers.entrySet()) {
        Switches set = switches.getOrDefault(layer.getKey(), Switches.USUAL);
        Map<String, Measure> measures = layer.getValue().measures();
        measures.put("off", new Measure(set.off() ? 1 : 0, ""));
        measures.put("frozen", new Measure(set.frozen() ? 1 : 0, ""));
        part(layer.getKey(), "layer", layer.getValue(), measures, set.look());
        empty += layer.getValue().entities() == 0 ? 1 : 0;
        precision =
            Math.max(
                precision, layer.getValue().box() == null ? 0 : layer.getValue().box().precision());
      }
      for (Map.Entry<String, Drawn> one : blocks.entrySet()) {
        Map<String, Measure> measures = one.getValue().measures();
        measures.put("inserted", new Measure(inserted.getOrDefault(one.getKey(), 0), ""));
        part(BLOCKS + one.getKey(), "block", one.getValue(), measures, "");
      }
      if (empty > 0) {
        readings.found(
            new Finding(
                "empty-layer",
                Finding.Severity.NOTE,
                -1,
                dev.kavrin.core.units.Words.count(empty, "layer") + " with nothing on it.",
                "Compare it with the version before."));
      }
      return readings.precision(precision).done();
    }

    private void part(
        String id, String kind, Drawn drawn, Map<String, Measure> measures, String look) {
      readings.part(
          new Part(
              id,
              null,
              id.startsWith(BLOCKS) ? id.substring(BLOCKS.length()) : id,
              kind,
              measures,
              drawn.box(),
              drawn.digest(),
              null,
              look.isEmpty() ? null : look,
              true));
    }

    /** A Julian date in universal time, JD 2451545.0 being 2000-01-01 12:00. */
    private static Optional<Instant> julian(String value) {
      try {
        BigDecimal days = new BigDecimal(value).subtract(EPOCH);
        return Optional.of(
            Instant.ofEpochMilli(
                days.multiply(MILLIS_A_DAY).setScale(0, RoundingMode.HALF_UP).longValueExact()));
      } catch (ArithmeticException | NumberFormatException noDate) {
        return Optional.empty();
      }
    }
  }
}
