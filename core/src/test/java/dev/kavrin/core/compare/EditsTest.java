package dev.kavrin.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import de.javagl.jgltf.model.io.GltfModelWriter;
import dev.kavrin.core.disk.RealDisk;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files edited in known ways: the comparison reports exactly these, and nothing else. */
class EditsTest {
  private static final int SEQUENCES = Boolean.getBoolean("kavrin.full") ? 500 : 40;
  private static final int MOST = 6;

  @TempDir Path folder;

  private Map<String, Outcome> differing(String ext, byte[] before, byte[] after)
      throws IOException {
    Path a = Files.write(folder.resolve("a" + ext), before);
    Path b = Files.write(folder.resolve("b" + ext), after);
    return FileComparison.of(new RealDisk(), a, "a" + ext, b, "b" + ext).changes().stream()
        .filter(c -> c.outcome() != Outcome.SAME)
        .collect(
            Collectors.toMap(
                PartChange::label,
                PartChange::outcome,
                (x, y) -> Outcome.UNREADABLE,
                TreeMap::new));
  }

  /** Each way alone, then sequences of several at once. */
  private static List<List<String>> sequences(Iterable<String> ways) {
    List<String> all = new ArrayList<>();
    ways.forEach(all::add);
    List<List<String>> sequences = new ArrayList<>(all.stream().map(List::of).toList());
    Random random = new Random(9);
    for (int i = 0; i < SEQUENCES; i++) {
      List<String> one = new ArrayList<>();
      for (int n = 1 + random.nextInt(MOST); n > 0; n--) {
        one.add(all.get(random.nextInt(all.size())));
      }
      sequences.add(one);
    }
    return sequences;
  }

  @Test
  void modelsShowExactlyWhatWasEdited() throws IOException {
    long seed = 1;
    for (List<String> ways : sequences(EditedModel.WAYS.keySet())) {
      EditedModel before = new EditedModel(seed++);
      EditedModel after = before.edited(ways);
      assertThat(differing(".glb", before.glb(), after.glb()))
          .as("seed %d, %s", seed - 1, ways)
          .isEqualTo(new TreeMap<>(after.expected()));
    }
  }

  /** Read and written again by another library, jgltf. */
  @Test
  void whatAnotherLibrarySavesAgainIsTheSame() throws IOException {
    for (long seed = 1; seed <= 3; seed++) {
      byte[] ours = new EditedModel(seed).glb();
      GltfModel model = new GltfModelReader().readWithoutReferences(new ByteArrayInputStream(ours));
      ByteArrayOutputStream theirs = new ByteArrayOutputStream();
      new GltfModelWriter().writeBinary(model, theirs);
      assertThat(theirs.toByteArray()).isNotEqualTo(ours);
      assertThat(differing(".glb", ours, theirs.toByteArray())).as("seed %d", seed).isEmpty();
    }
  }

  @Test
  void drawingsShowExactlyWhatWasEditedWhoeverSavedThem() throws IOException {
    long seed = 1;
    for (List<String> ways : sequences(EditedDrawing.WAYS.keySet())) {
      EditedDrawing before = new EditedDrawing(seed++);
      EditedDrawing after = before.edited(ways);
      boolean another = seed % 2 == 0;
      assertThat(differing(".dxf", before.dxf(false), after.dxf(another)))
          .as("seed %d, %s", seed - 1, ways)
          .isEqualTo(new TreeMap<>(after.expected()));
    }
  }

  /** Values of a set-up, columns of a table and fields of a run, written by libraries. */
  private enum Kind {
    SETTINGS(".json"),
    TABLE(".csv"),
    FIELDS(".h5");

    private final String ext;

    Kind(String ext) {
      this.ext = ext;
    }
  }

  private static Map<String, double[]> data(Random random) {
    Map<String, double[]> data = new LinkedHashMap<>();
    for (int i = 0; i < 8; i++) {
      data.put("field " + i, random.doubles(12, 250, 400).toArray());
    }
    return data;
  }

  private static final List<String> DATA_WAYS =
      List.of("less", "more", "one number", "all numbers", "another length", "a late digit");

  /** Edits fields that were not edited yet; a renamed field cannot be told in a set-up. */
  private static Map<String, Outcome> edit(
      Map<String, double[]> data, List<String> ways, Random random) {
    Map<String, Outcome> expected = new TreeMap<>();
    List<String> names = new ArrayList<>(data.keySet());
    for (int i = 0; i < ways.size(); i++) {
      String name = names.get(i);
      double[] values = data.get(name).clone();
      Outcome outcome = Outcome.CHANGED;
      switch (ways.get(i)) {
        case "less" -> {
          data.remove(name);
          expected.put(name, Outcome.REMOVED);
          continue;
        }
        case "more" -> {
          data.put("new " + i, random.doubles(12).toArray());
          expected.put("new " + i, Outcome.ADDED);
          continue;
        }
        case "one number" -> values[random.nextInt(values.length)] += 1;
        case "all numbers" -> values = random.doubles(12).toArray();
        case "another length" -> values[values.length - 1] = 0;
        default -> values[0] += 1e-8;
      }
      data.put(name, values);
      expected.put(name, outcome);
    }
    return expected;
  }

  private byte[] written(Kind kind, Map<String, double[]> data) throws IOException {
    switch (kind) {
      case SETTINGS -> {
        Map<String, Double> first = new LinkedHashMap<>();
        data.forEach(
            (name, values) -> {
              double sum = 0;
              for (double value : values) {
                sum = sum * 1.7 + value;
              }
              first.put(name, sum);
            });
        return tools.jackson.databind.json.JsonMapper.shared().writeValueAsBytes(first);
      }
      case TABLE -> {
        StringBuilder text = new StringBuilder(String.join(",", data.keySet())).append('\n');
        for (int row = 0; row < 12; row++) {
          int at = row;
          text.append(
                  data.values().stream()
                      .map(v -> String.valueOf(v[at]))
                      .collect(Collectors.joining(",")))
              .append('\n');
        }
        return text.toString().getBytes(StandardCharsets.UTF_8);
      }
      default -> {
        Path file = folder.resolve("written.h5");
        Files.deleteIfExists(file);
        try (WritableHdfFile h5 = HdfFile.write(file)) {
          data.forEach(h5::putDataset);
        }
        return Files.readAllBytes(file);
      }
    }
  }

  @Test
  void numbersShowExactlyWhatWasEdited() throws IOException {
    for (Kind kind : Kind.values()) {
      long seed = 1;
      for (List<String> ways : sequences(DATA_WAYS)) {
        Random random = new Random(seed++);
        Map<String, double[]> before = data(random);
        Map<String, double[]> after = new LinkedHashMap<>(before);
        Map<String, Outcome> expected = edit(after, ways, random);
        assertThat(differing(kind.ext, written(kind, before), written(kind, after)))
            .as("%s, seed %d, %s", kind, seed - 1, ways)
            .isEqualTo(expected);
      }
    }
  }

  /** Shapes in a picture of lines: groups by their names, wherever they stand. */
  @Test
  void lineArtShowsWhatWasDrawnOver() throws IOException {
    String before =
        """
        <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 40">
          <g id="track"><path id="left rail" d="M0 4h90"/><path id="right rail" d="M0 14h90"/></g>
          <g id="signs"><circle id="lamp" cx="4" cy="30" r="2"/><text id="stop">Stop</text></g>
        </svg>
        """;
    String after =
        before
            .replace("M0 14h90", "M0 15h90")
            .replace("<text id=\"stop\">Stop</text>", "")
            .replace("id=\"lamp\"", "id=\"lantern\"");
    Map<String, Outcome> found =
        differing(
            ".svg",
            before.getBytes(StandardCharsets.UTF_8),
            after.getBytes(StandardCharsets.UTF_8));
    assertThat(found)
        .containsEntry("right rail", Outcome.CHANGED)
        .containsEntry("stop", Outcome.REMOVED)
        .containsEntry("lantern", Outcome.RENAMED)
        .hasSize(3);
  }
}
