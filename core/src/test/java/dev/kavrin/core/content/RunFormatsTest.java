package dev.kavrin.core.content;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.FileComparison;
import dev.kavrin.core.compare.Outcome;
import dev.kavrin.core.compare.PartChange;
import dev.kavrin.core.content.ContentReader.Reading;
import dev.kavrin.core.content.hdf5.Hdf5Format;
import dev.kavrin.core.content.hdf5.Hdf5Reader;
import dev.kavrin.core.content.json.JsonReader;
import dev.kavrin.core.disk.RealDisk;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The formats runs are written in. What we read of HDF5 is held against the HDF Group's own library
 * (npm package h5wasm); JSON against the examples of RFC 8259, section 13.
 */
class RunFormatsTest {
  @TempDir Path folder;

  private static String tool(String name) {
    return Path.of("..", "web", "tools", name).toAbsolutePath().normalize().toString();
  }

  private Path restart(double[][] field, Long step) {
    Path path = folder.resolve("disc.h5");
    try (WritableHdfFile file = HdfFile.write(path)) {
      if (step != null) {
        file.putAttribute("step", step);
      }
      file.putDataset("temperature", field).putAttribute("unit", "K");
      file.putGroup("mesh").putDataset("radius", new double[] {0.08, 0.12, 0.16});
    }
    return path;
  }

  private static double[][] field(int rows, int columns) {
    Random random = new Random(7);
    double[][] field = new double[rows][columns];
    for (double[] row : field) {
      Arrays.setAll(row, i -> 293.15 + 400 * random.nextDouble());
    }
    return field;
  }

  private static Reading read(ContentReader reader, Path path) throws IOException {
    try (SeekableByteChannel in = Files.newByteChannel(path)) {
      return reader.read(in);
    }
  }

  private Reading read(ContentReader reader, byte[] bytes) throws IOException {
    Path path = folder.resolve("bytes");
    Files.write(path, bytes);
    return read(reader, path);
  }

  @Test
  void whatWeReadOfHdf5IsWhatTheHdfGroupsLibraryReads() throws Exception {
    Path path = restart(field(900, 1000), 120L);
    Process process = new ProcessBuilder("node", tool("read-h5.mjs"), path.toString()).start();
    JsonNode theirs = JsonMapper.shared().readTree(process.getInputStream().readAllBytes());
    assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    Inventory ours = read(new Hdf5Reader(), path).inventory();
    assertThat(ours.step()).isEqualTo(theirs.path("step").asLong()).isEqualTo(120);
    assertThat(ours.parts()).extracting(Part::id).contains("temperature", "mesh", "mesh/radius");
    for (Part part : ours.parts().stream().filter(p -> p.kind().equals("field")).toList()) {
      for (String measure : part.measures().keySet()) {
        double expected = theirs.path("fields").path(part.id()).path(measure).asDouble(Double.NaN);
        assertThat(part.measure(measure)).as(part.id() + measure).isCloseTo(expected, within(1e-9));
      }
    }
  }

  /** Written by the HDF Group's library; what is linked is named, whether it is there or not. */
  @Test
  void otherFilesAnHdf5FileLinksIntoAreNamed() throws Exception {
    Path path = folder.resolve("all.h5");
    List<String> named = List.of("step-0001.h5", "../other run/Maße.h5", "/var/nowhere.h5");
    List<String> command =
        new ArrayList<>(List.of("node", tool("write-links.mjs"), path.toString()));
    command.addAll(named);
    Process process = new ProcessBuilder(command).inheritIO().start();
    assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    Reading reading = read(new Hdf5Reader(), path);
    assertThat(reading.findings()).isEmpty();
    assertThat(reading.inventory().parts()).extracting(Part::id).contains("own", "steps");
    assertThat(reading.inventory().links()).extracting(Link::uri).containsExactlyElementsOf(named);
    try (SeekableByteChannel in = Files.newByteChannel(path)) {
      PartWriter.Opened file = new PartWriter.Opened(in, "all.h5", SiblingFiles.NOTHING);
      assertThatThrownBy(
              () ->
                  new Hdf5Format()
                      .parts()
                      .orElseThrow()
                      .write(
                          file,
                          List.of(new PartWriter.Wanted(file, List.of("own"))),
                          OutputStream.nullOutputStream()))
          .as("links cannot be written again, so nothing is")
          .isInstanceOf(PartWriter.CannotTake.class)
          .hasMessageContaining("is a link to somewhere else");
    }
  }

  @Test
  void everyTruncationOfAnHdf5FileIsFoundAndNoFlippedByteEscapes() throws IOException {
    byte[] whole = Files.readAllBytes(restart(field(6, 8), 3L));
    assertThat(read(new Hdf5Reader(), whole).findings()).isEmpty();
    for (int length = 0; length < whole.length; length++) {
      assertThat(read(new Hdf5Reader(), Arrays.copyOf(whole, length)).damaged())
          .as("cut to " + length)
          .isTrue();
    }
    Random random = new Random(11);
    for (int n = 0; n < 400; n++) {
      byte[] bent = whole.clone();
      bent[random.nextInt(bent.length)] ^= (byte) (1 + random.nextInt(255));
      assertThat(read(new Hdf5Reader(), bent)).isNotNull();
    }
  }

  @Test
  void aFieldThatRanAwayIsDoubtful() throws IOException {
    double[][] field = field(4, 4);
    field[2][1] = Double.NaN;
    field[3][3] = Double.POSITIVE_INFINITY;
    Reading reading = read(new Hdf5Reader(), restart(field, null));
    assertThat(reading.doubtful()).isTrue();
    assertThat(reading.damaged()).isFalse();
    assertThat(reading.findings().get(0).words()).contains("temperature", "2 values");
    assertThat(reading.inventory().step()).isNull();
  }

  @Test
  void twoStepsAndTwoSetUpsAreComparedByTheirValues() throws IOException {
    double[][] field = field(3, 5);
    Path a = Files.copy(restart(field, 1L), folder.resolve("a.h5"));
    field[0][0] += 15;
    Path b = Files.copy(restart(field, 2L), folder.resolve("b.h5"));
    Comparison steps = FileComparison.of(new RealDisk(), a, "a.h5", b, "b.h5");
    assertThat(steps.changes())
        .extracting(PartChange::label, PartChange::outcome)
        .containsExactlyInAnyOrder(
            tuple("temperature", Outcome.CHANGED), tuple("radius", Outcome.SAME));
    PartChange changed =
        steps.changes().stream()
            .filter(c -> c.outcome() == Outcome.CHANGED)
            .findFirst()
            .orElseThrow();
    assertThat(changed.words()).startsWith("mean ").contains("→").endsWith("K");
    assertThat(changed.numbers().get("mean").b() - changed.numbers().get("mean").a())
        .isCloseTo(1.0, within(1e-9));
    Path c = Files.writeString(folder.resolve("c.json"), "{\"flux\":1,\"name\":\"disc\"}");
    Path d = Files.writeString(folder.resolve("d.json"), "{\"flux\":2.5,\"gas\":true}");
    assertThat(FileComparison.of(new RealDisk(), c, "c.json", d, "d.json").changes())
        .extracting(PartChange::label, PartChange::outcome, PartChange::words)
        .containsExactlyInAnyOrder(
            tuple("flux", Outcome.CHANGED, "1.00000 → 2.50000"),
            tuple("name", Outcome.REMOVED, "gone"),
            tuple("gas", Outcome.ADDED, "new"));
  }

  /** RFC 8259, section 13, first example. */
  private static final String IMAGE =
      """
      { "Image": {
            "Width":  800,
            "Height": 600,
            "Title":  "View from 15th Floor",
            "Thumbnail": {
                "Url":    "http://www.example.com/image/481989943",
                "Height": 125,
                "Width":  100
            },
            "Animated" : false,
            "IDs": [116, 943, 234, 38793]
          }
      }""";

  @Test
  void jsonIsReadToItsEndAndEveryTruncationFound() throws IOException {
    byte[] whole = IMAGE.getBytes(StandardCharsets.UTF_8);
    Reading reading = read(new JsonReader(), whole);
    assertThat(reading.findings()).isEmpty();
    assertThat(reading.inventory().parts())
        .extracting(Part::id)
        .contains("Image/Width", "Image/Thumbnail/Url", "Image/IDs/3")
        .hasSize(11);
    for (int length = 0; length < whole.length; length++) {
      assertThat(read(new JsonReader(), Arrays.copyOf(whole, length)).damaged())
          .as("cut to " + length)
          .isTrue();
    }
  }

  @Test
  void jsonTellsItsStepAndWhatIsWrong() throws IOException {
    assertThat(
            read(new JsonReader(), "{\"a\":{\"step\":7},\"step\":120}".getBytes())
                .inventory()
                .step())
        .isEqualTo(120);
    assertThat(read(new JsonReader(), "{\"a\":1,}".getBytes()).findings().get(0).code())
        .isEqualTo("not-json");
    assertThat(read(new JsonReader(), "{} x".getBytes()).findings()).isNotEmpty();
    String deep = "[".repeat(100_000);
    assertThat(read(new JsonReader(), deep.getBytes()).damaged()).isTrue();
  }
}
