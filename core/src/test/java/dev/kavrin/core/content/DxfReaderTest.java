package dev.kavrin.core.content;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.content.ContentReader.Reading;
import dev.kavrin.core.content.dxf.DxfReader;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** DXF, held against the npm package dxf-parser. */
class DxfReaderTest {
  private static final Path TOOL =
      Path.of("..", "web", "tools", "read-dxf.mjs").toAbsolutePath().normalize();

  @TempDir Path folder;

  private static String pairs(Object... codesAndValues) {
    StringBuilder text = new StringBuilder();
    for (Object each : codesAndValues) {
      text.append(each).append('\n');
    }
    return text.toString();
  }

  private static String drawing(int entities, long seed) {
    Random random = new Random(seed);
    StringBuilder text = new StringBuilder(pairs(0, "SECTION", 2, "ENTITIES"));
    for (int n = 0; n < entities; n++) {
      String layer = "Layer " + random.nextInt(4);
      double x = random.nextInt(1000) / 8.0;
      text.append(
          switch (random.nextInt(3)) {
            case 0 -> pairs(0, "LINE", 8, layer, 10, x, 20, 1.5, 11, x + 1, 21, 2.5);
            case 1 -> pairs(0, "CIRCLE", 8, layer, 10, x, 20, 1.5, 40, 3);
            default -> pairs(0, "TEXT", 8, layer, 10, x, 20, 0, 40, 5, 1, "rail " + n);
          });
    }
    return text
        + pairs(0, "ENDSEC", 0, "SECTION", 2, "OBJECTS")
        + pairs(0, "IMAGEDEF", 1, "pictures\\survey.png", 10, 1024, 20, 768)
        + pairs(0, "ENDSEC", 0, "EOF");
  }

  private Reading read(byte[] bytes) throws IOException {
    Path path = folder.resolve("sheet.dxf");
    Files.write(path, bytes);
    try (SeekableByteChannel in = Files.newByteChannel(path)) {
      return new DxfReader().read(in);
    }
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.ISO_8859_1);
  }

  @Test
  void layersAndTheirEntitiesAreThoseThatAnotherParserFinds() throws Exception {
    for (long seed = 1; seed <= 5; seed++) {
      Reading ours = read(bytes(drawing(120, seed)));
      Process process =
          new ProcessBuilder("node", TOOL.toString(), folder.resolve("sheet.dxf").toString())
              .start();
      JsonNode theirs = JsonMapper.shared().readTree(process.getInputStream().readAllBytes());
      assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
      assertThat(ours.findings()).isEmpty();
      assertThat(ours.inventory().parts()).hasSize(theirs.size());
      for (Part layer : ours.inventory().parts()) {
        assertThat(layer.measure("entities"))
            .as(layer.label())
            .isEqualTo(theirs.path(layer.label()).asDouble());
      }
      assertThat(ours.inventory().links())
          .containsExactly(new Link("pictures/survey.png", "picture"));
    }
  }

  @Test
  void everyTruncationIsFound() throws IOException {
    byte[] whole = bytes(drawing(6, 1));
    assertThat(read(whole).findings()).isEmpty();
    for (int length = 0; length < whole.length - 1; length++) {
      assertThat(read(Arrays.copyOf(whole, length)).damaged()).as("cut to " + length).isTrue();
    }
    assertThat(read(Arrays.copyOf(whole, whole.length - 1)).damaged())
        .as("only the last line end is missing")
        .isFalse();
  }

  @Test
  void aLayerIsTheSameExactlyWhileItsEntitiesAre() throws IOException {
    String one = drawing(40, 2);
    Reading before = read(bytes(one));
    Reading after = read(bytes(one.replaceFirst("rail 3\\b", "rail three")));
    long changed = 0;
    for (int n = 0; n < before.inventory().parts().size(); n++) {
      Part a = before.inventory().parts().get(n);
      Part b = after.inventory().parts().get(n);
      assertThat(a.id()).isEqualTo(b.id());
      changed += a.exact().equals(b.exact()) ? 0 : 1;
    }
    assertThat(changed).isEqualTo(one.contains("rail 3\n") ? 1 : 0);
  }

  @Test
  void whatIsNoDrawingIsSaidToBeNone() throws IOException {
    assertThat(read(bytes("solid teapot\nfacet\n")).findings().get(0).code()).isEqualTo("not-dxf");
    assertThat(read(new byte[0]).findings().get(0).code()).isEqualTo("empty");
    byte[] zeros = new byte[70_000];
    assertThat(read(zeros).damaged()).isTrue();
  }

  /** JD 2451545.0 is 2000-01-01 12:00: IAU resolution B1.9 of 1994 for the epoch J2000. */
  @Test
  void itsHeaderTellsWhenItWasSaved() throws IOException {
    Path file = folder.resolve("dated.dxf");
    Files.writeString(
        file,
        pairs(0, "SECTION", 2, "HEADER", 9, "$TDUUPDATE", 40, "2451545.0", 0, "ENDSEC")
            + drawing(3, 1));
    try (SeekableByteChannel in = Files.newByteChannel(file)) {
      assertThat(new DxfReader().read(in).inventory().saved())
          .isEqualTo(java.time.Instant.parse("2000-01-01T12:00:00Z"));
    }
  }

  /** The published reference: sections one after another, the end mark last, remarks anywhere. */
  @Test
  void nothingButRemarksStandsOutsideItsSectionsOrBehindItsEnd() throws IOException {
    String whole = drawing(20, 2);
    assertThat(read(bytes(pairs(999, "Tarnwick Incline") + whole + "\n\u001a")).damaged())
        .isFalse();
    assertThat(words(whole.substring(pairs(0, "SECTION", 2, "ENTITIES").length())))
        .contains("stands in no section");
    assertThat(words(whole + pairs(0, "LINE"))).contains("stands behind its end mark");
    assertThat(words(whole.replaceFirst("0\nENDSEC\n", ""))).contains("inside another");
    assertThat(words(pairs(0, "SECTION", 2, "ENTITIES", 0, "EOF"))).contains("inside a section");
  }

  private String words(String drawing) throws IOException {
    Reading reading = read(bytes(drawing));
    assertThat(reading.damaged()).isTrue();
    return reading.findings().get(0).words();
  }

  /** Old drawings name a code page; many programs write UTF-8 whatever the page says. */
  @Test
  void namesAreReadInUtf8OrInTheCodePageItNames() throws IOException {
    String head = pairs(0, "SECTION", 2, "HEADER", 9, "$DWGCODEPAGE", 3, "%s", 0, "ENDSEC");
    String body =
        pairs(0, "SECTION", 2, "ENTITIES", 0, "POINT", 8, "Gleisplan \u00dcbersicht", 10, 1, 20, 2)
            + pairs(0, "ENDSEC", 0, "EOF");
    for (String page : new String[] {"ANSI_1252", "ANSI_1250", "ascii"}) {
      String text = head.formatted(page) + body;
      assertThat(layers(text.getBytes(StandardCharsets.UTF_8)))
          .as(page)
          .contains("Gleisplan Übersicht");
    }
    String greek = (head.formatted("ANSI_1253") + body).replace("\u00dc", "\u03a9");
    assertThat(layers(greek.getBytes(java.nio.charset.Charset.forName("windows-1253"))))
        .contains("Gleisplan Ωbersicht");
    assertThat(layers(body.getBytes(StandardCharsets.ISO_8859_1))).contains("Gleisplan Übersicht");
  }

  private java.util.List<String> layers(byte[] drawing) throws IOException {
    return read(drawing).inventory().parts().stream().map(Part::label).toList();
  }
}
