package dev.kavrin.core.content.dxf;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.ContentReader;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Unclosed;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * DXF in its text form, read pair by pair to the end mark. Its parts are the layers, each with its
 * entities; its links the pictures that image definitions name. Source: the published DXF reference
 * (from memory): a group code on one line, its value on the next, {@code 0/EOF} last.
 */
public final class DxfReader implements ContentReader {
  private static final int LONGEST_LINE = 1 << 16;
  private static final BigDecimal EPOCH = new BigDecimal("2440587.5");
  private static final BigDecimal MILLIS_A_DAY = BigDecimal.valueOf(86_400_000);

  @Override
  public boolean reads(String ext) {
    return ext.equals("dxf");
  }

  @Override
  public Reading read(SeekableByteChannel in) throws IOException {
    in.position(0);
    if (in.size() == 0) {
      return new Reading(
          Inventory.of("dxf", List.of(), List.of()),
          List.of(Finding.damaged("empty", 0, "The file is empty: 0 bytes.")));
    }
    Drawing drawing = new Drawing();
    BufferedReader lines =
        new BufferedReader(
            new InputStreamReader(
                Channels.newInputStream(new Unclosed(in)), StandardCharsets.ISO_8859_1));
    drawing.take(lines, in.size());
    return new Reading(drawing.inventory(), drawing.findings);
  }

  private record Layer(ContentHash hash, long[] entities) {}

  /** What was read so far. */
  private static final class Drawing {
    private final List<Finding> findings = new ArrayList<>();
    private final Map<String, Layer> layers = new LinkedHashMap<>();
    private final List<Link> links = new ArrayList<>();
    private final StringBuilder entity = new StringBuilder();
    private String section = "";
    private String record = "";
    private String layer = "0";
    private String variable = "";
    private Instant saved;
    private long line;

    void take(BufferedReader lines, long size) throws IOException {
      while (true) {
        String code = next(lines);
        String value = code == null ? null : next(lines);
        if (value == null) {
          findings.add(
              Finding.damaged(
                  "cut-short", size, "It ends before its end mark, after " + size + " bytes."));
          return;
        }
        int group;
        try {
          group = Integer.parseInt(code.strip());
        } catch (NumberFormatException noCode) {
          findings.add(Finding.damaged("not-dxf", -1, "Line " + (line - 1) + " is no group code."));
          return;
        }
        if (group == 0 && value.strip().equals("EOF")) {
          endRecord();
          return;
        }
        pair(group, value.strip());
      }
    }

    /** Null at the end; a line without an end is one that was cut. */
    private String next(BufferedReader lines) throws IOException {
      StringBuilder text = new StringBuilder();
      for (int c = lines.read(); c >= 0; c = lines.read()) {
        if (c == '\n') {
          line++;
          return text.toString();
        }
        if (text.length() < LONGEST_LINE) {
          text.append((char) c);
        }
      }
      return text.toString().strip().equals("EOF") ? text.toString() : null;
    }

    private void pair(int group, String value) {
      if (group == 0) {
        endRecord();
        record = value;
        layer = "0";
        entity.append(value);
      } else if (group == 9) {
        variable = value;
      } else if (group == 40 && section.equals("HEADER") && variable.equals("$TDUUPDATE")) {
        saved = julian(value).orElse(null);
      } else if (group == 2 && record.equals("SECTION")) {
        section = value;
      } else if (group == 1 && record.equals("IMAGEDEF")) {
        links.add(new Link(value.replace('\\', '/'), "picture"));
      } else if (section.equals("ENTITIES")) {
        layer = group == 8 ? value : layer;
        entity.append('\n').append(group).append('\n').append(value);
      }
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

    private void endRecord() {
      boolean counts = section.equals("ENTITIES") && !record.matches("SECTION|ENDSEC|");
      if (counts) {
        Layer held = layers.computeIfAbsent(layer, k -> new Layer(new ContentHash(), new long[1]));
        held.entities()[0]++;
        held.hash().add(entity.toString().getBytes(StandardCharsets.ISO_8859_1));
      }
      entity.setLength(0);
    }

    Inventory inventory() {
      List<Part> parts = new ArrayList<>();
      layers.forEach(
          (name, held) ->
              parts.add(
                  Part.of(
                      name,
                      null,
                      name,
                      "layer",
                      Map.of("entities", new Measure(held.entities()[0], "")),
                      held.hash().id().digest())));
      return Inventory.of("dxf", parts, links).saved(saved);
    }
  }
}
