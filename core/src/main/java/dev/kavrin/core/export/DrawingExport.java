package dev.kavrin.core.export;

import dev.kavrin.core.content.DrawingReader;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import dev.kavrin.core.health.Readers;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Line work as lines on layers in the oldest form of DXF that all programs read, Release 12. */
final class DrawingExport implements Export {
  private static final int LONGEST_NAME = 31;

  /** With an ending of its own, for a drawing is a DXF already. */
  private static final Format FORMAT =
      new Format(
          "r12.dxf",
          "DXF, Release 12",
          "texts, dimensions, hatches and pictures; curves become straight pieces, blocks are"
              + " dissolved, names of layers are shortened to what Release 12 allows");

  @Override
  public Format format() {
    return FORMAT;
  }

  @Override
  public boolean takes(String name) {
    return Readers.shows(name) == Readers.Shows.DRAWING;
  }

  @Override
  public void write(Opened from, OutputStream out) throws IOException {
    if (!(Readers.of(from.in(), from.name()).orElse(null) instanceof DrawingReader reader)) {
      throw new CannotTake("It is no drawing.");
    }
    var lines = reader.lines(from.in());
    Map<String, String> names = new LinkedHashMap<>();
    Set<String> taken = new HashSet<>(Set.of("0"));
    lines.each((layer, x1, y1, x2, y2) -> names.computeIfAbsent(layer, l -> plain(l, taken)));
    if (names.isEmpty()) {
      throw new CannotTake("There is no line work in it that could be written.");
    }
    StringBuilder head = new StringBuilder();
    pair(head, 0, "SECTION", 2, "HEADER", 9, "$ACADVER", 1, "AC1009", 0, "ENDSEC");
    pair(head, 0, "SECTION", 2, "TABLES", 0, "TABLE", 2, "LAYER", 70, names.size());
    for (String name : names.values()) {
      pair(head, 0, "LAYER", 2, name, 70, 0, 62, 7, 6, "CONTINUOUS");
    }
    pair(head, 0, "ENDTAB", 0, "ENDSEC", 0, "SECTION", 2, "ENTITIES");
    put(head, out);
    try {
      lines.each(
          (layer, x1, y1, x2, y2) -> {
            StringBuilder line = new StringBuilder();
            pair(line, 0, "LINE", 8, names.get(layer));
            pair(line, 10, x1, 20, y1, 30, 0.0, 11, x2, 21, y2, 31, 0.0);
            put(line, out);
          });
    } catch (UncheckedIOException failed) {
      throw failed.getCause();
    }
    StringBuilder end = new StringBuilder();
    pair(end, 0, "ENDSEC", 0, "EOF");
    put(end, out);
  }

  private static void pair(StringBuilder text, Object... codesAndValues) {
    for (int i = 0; i < codesAndValues.length; i += 2) {
      text.append(String.format(Locale.ROOT, "%3s", codesAndValues[i])).append('\n');
      text.append(codesAndValues[i + 1]).append('\n');
    }
  }

  private static void put(StringBuilder text, OutputStream out) {
    try {
      out.write(text.toString().getBytes(StandardCharsets.US_ASCII));
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
  }

  /** Capital letters, digits, and three signs; unique. */
  private static String plain(String layer, Set<String> taken) {
    String clean = layer.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9_$-]", "_");
    String stem = clean.substring(0, Math.min(clean.length(), LONGEST_NAME - 4));
    String name = stem.isEmpty() ? "_" : stem;
    for (int n = 2; !taken.add(name); n++) {
      name = stem + "_" + n;
    }
    return name;
  }
}
