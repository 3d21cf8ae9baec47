package dev.kavrin.core.content.dxf;

import dev.kavrin.core.content.Beside;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.ItemReader;
import dev.kavrin.core.content.Items;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import dev.kavrin.core.content.dxf.DxfPairs.DxfPair;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
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
public final class DxfReader implements ItemReader {
  private static final String BLOCKS = "blocks/";
  private static final long LARGEST_HELD = 64_000_000;
  private static final BigDecimal EPOCH = new BigDecimal("2440587.5");
  private static final BigDecimal MILLIS_A_DAY = BigDecimal.valueOf(86_400_000);

  @Override
  public boolean reads(String ext) {
    return ext.equals("dxf");
  }

  @Override
  public Reading read(SeekableByteChannel in, Beside beside) throws IOException {
    return read(in, new Drawing(new Readings("dxf"), false));
  }

  @Override
  public Items items(SeekableByteChannel in) throws IOException {
    Drawing drawing = new Drawing(new Readings("dxf"), true);
    return in.size() > LARGEST_HELD || read(in, drawing).damaged() ? Items.NONE : drawing::items;
  }

  private static Reading read(SeekableByteChannel in, Drawing drawing) throws IOException {
    Readings readings = drawing.readings;
    if (in.size() == 0) {
      return readings.empty();
    }
    try {
      DxfPairs pairs =
          new DxfPairs(
              new BufferedReader(
                  new InputStreamReader(Bytes.from(in, 0), StandardCharsets.ISO_8859_1), 1 << 16));
      for (DxfPair pair = pairs.next(); pair != null; pair = pairs.next()) {
        drawing.take(pair);
      }
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
  private static final class Drawing {
    private final Readings readings;
    private final boolean holding;
    private final Map<String, Drawn> layers = new LinkedHashMap<>();
    private final Map<String, Switches> switches = new LinkedHashMap<>();
    private final Map<String, Drawn> blocks = new TreeMap<>();
    private final Map<String, Integer> inserted = new TreeMap<>();
    private String section = "";
    private String block = "";
    private String variable = "";
    private DxfEntity now;

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

    void take(DxfPair pair) {
      if (pair.code() == 0) {
        begin(pair.value());
      } else if (section.equals("HEADER")) {
        header(pair);
      } else if (now != null) {
        if (now.type().equals("SECTION") && pair.code() == 2) {
          section = pair.value();
        }
        now.add(pair);
      }
    }

    private void header(DxfPair pair) {
      if (pair.code() == 9) {
        variable = pair.value();
      } else if (pair.code() == 40 && variable.equals("$TDUUPDATE")) {
        julian(pair.value()).ifPresent(readings::saved);
      }
    }

    /** Vertices and attributes belong to what stands before them. */
    private void begin(String type) {
      boolean goesOn =
          now != null
              && (type.equals("VERTEX") && now.type().equals("POLYLINE")
                  || type.equals("ATTRIB") && now.type().equals("INSERT"));
      if (!goesOn) {
        end();
        now = new DxfEntity(type);
      }
    }

    private void end() {
      if (now == null) {
        return;
      }
      switch (now.type()) {
        case "SECTION", "SEQEND", "TABLE", "ENDTAB", "VERTEX" -> {}
        case "ENDSEC" -> section = "";
        case "LAYER" -> now.first(2).ifPresent(name -> switches.put(name, Switches.of(now)));
        case "IMAGEDEF" -> now.first(1).ifPresent(path -> link(path, "picture"));
        case "BLOCK" -> {
          block = now.first(2).orElse("");
          now.first(1).filter(p -> !p.isEmpty()).ifPresent(path -> link(path, "reference"));
        }
        case "ENDBLK" -> block = "";
        default -> drawn();
      }
      now = null;
    }

    private void drawn() {
      boolean within = section.equals("BLOCKS") && !block.isEmpty() && !block.startsWith("*");
      if (section.equals("ENTITIES")) {
        layers.computeIfAbsent(now.layer(), k -> new Drawn(false, holding)).add(now);
      } else if (within) {
        blocks.computeIfAbsent(block, k -> new Drawn(true, holding)).add(now);
      }
      if (now.type().equals("INSERT")) {
        now.first(2).ifPresent(name -> inserted.merge(name, 1, Integer::sum));
      }
    }

    private void link(String path, String kind) {
      readings.link(new Link(path.replace('\\', '/'), kind));
    }

    Reading reading() {
      end();
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
                "Compare it with the state before."));
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
