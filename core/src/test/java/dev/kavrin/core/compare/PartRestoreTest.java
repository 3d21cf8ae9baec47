package dev.kavrin.core.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.compare.FileComparison.Source;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.PartWriter.Brought;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.gltf.Meshes;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.restore.PartRestore;
import dev.kavrin.core.restore.PartRestore.Pick;
import dev.kavrin.core.restore.PartRestore.Written;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import io.jhdf.api.WritableGroup;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Predicate;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Random parts of older states brought into newer ones: the parts equal what they were, all else
 * what it is, by fingerprints read back; and readers of others accept the files: the Khronos glTF
 * validator (npm gltf-validator), dxf-parser, the ZIP and JSON libraries.
 */
class PartRestoreTest {
  private static final int PICKS = Boolean.getBoolean("kavrin.full") ? 500 : 20;
  private static final int VALIDATED = 8;

  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();
  private final PartRestore restore = new PartRestore(disk, new Publisher(disk, "t"));
  private int made;

  private record Result(Path file, List<String> picked, Written written) {}

  private Source file(String ext, byte[] bytes) throws IOException {
    Path path = Files.write(folder.resolve("f" + made++ + "." + ext), bytes);
    return Source.of(path, "f." + ext);
  }

  private List<Part> parts(Source source) {
    return new HealthCheck(disk).inspect(source.file(), source.name()).inventory().parts();
  }

  /** Brings one to three parts of a kind from the older file into the newer one. */
  private Result brought(
      String ext, byte[] newer, byte[] older, Predicate<Part> kind, Random random)
      throws IOException {
    Source base = file(ext, newer);
    Source from = file(ext, older);
    List<String> ids = new ArrayList<>(parts(from).stream().filter(kind).map(Part::id).toList());
    Collections.shuffle(ids, random);
    List<String> picked = List.copyOf(ids.subList(0, Math.min(ids.size(), 1 + random.nextInt(3))));
    Path target = folder.resolve("r" + made++ + "." + ext);
    Written written = restore.write(base, List.of(new Pick(from, picked)), target);
    assertThat(written.unequal()).as("%s %s", ext, picked).isEmpty();
    assertThat(written.brought()).extracting(Brought::from).containsAll(picked);
    assertThat(Files.readAllBytes(base.file())).isEqualTo(newer);
    assertThat(new HealthCheck(disk).inspect(target, "r." + ext).verdict().trustworthy()).isTrue();
    return new Result(target, picked, written);
  }

  private static List<String> some(Map<String, ?> ways, Random random) {
    List<String> all = new ArrayList<>(ways.keySet());
    Collections.shuffle(all, random);
    return all.subList(0, 1 + random.nextInt(6));
  }

  private static String tool(String name, Path file) throws IOException {
    Path tool = Path.of("..", "web", "tools", name).toAbsolutePath().normalize();
    Process process = new ProcessBuilder("node", tool.toString(), file.toString()).start();
    return new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
  }

  @Test
  void partsOfModels() throws IOException {
    Random random = new Random(20311012);
    for (int i = 0; i < PICKS; i++) {
      EditedModel older = new EditedModel(i);
      byte[] newer = older.edited(some(EditedModel.WAYS, random)).glb();
      Result result = brought("glb", newer, older.glb(), p -> p.kind().equals("mesh"), random);
      if (i < VALIDATED) {
        assertThat(tool("validate-glb.mjs", result.file())).startsWith("0 errors");
      }
    }
  }

  @Test
  void layersAndBlocksOfDrawings() throws IOException {
    Random random = new Random(20311013);
    for (int i = 0; i < PICKS; i++) {
      EditedDrawing older = new EditedDrawing(i);
      byte[] before = older.dxf(i % 2 == 0);
      byte[] newer = older.edited(some(EditedDrawing.WAYS, random)).dxf(i % 2 == 0);
      Result result = brought("dxf", newer, before, p -> true, random);
      if (i < VALIDATED) {
        JsonNode ours = JsonMapper.shared().readTree(tool("read-dxf.mjs", result.file()));
        JsonNode theirs =
            JsonMapper.shared()
                .readTree(tool("read-dxf.mjs", Files.write(folder.resolve("o.dxf"), before)));
        for (String layer : result.picked()) {
          assertThat(ours.path(layer).asInt()).as(layer).isEqualTo(theirs.path(layer).asInt());
        }
      }
    }
  }

  private static Map<String, MeshData> bodies(Random random) {
    Map<String, MeshData> bodies = new LinkedHashMap<>();
    for (int i = 0; i < 5; i++) {
      bodies.put(
          "Body " + i,
          random.nextBoolean()
              ? Meshes.cube(1 + random.nextInt(9))
              : Meshes.torus(3 + random.nextInt(4), 1, 8));
    }
    return bodies;
  }

  @Test
  void objectsOfObjFiles() throws IOException {
    Random random = new Random(20311014);
    for (int i = 0; i < PICKS; i++) {
      Map<String, MeshData> newer = bodies(random);
      newer.remove("Body " + random.nextInt(5));
      brought(
          "obj", ModelFiles.obj(newer, 6), ModelFiles.obj(bodies(random), 6), p -> true, random);
    }
  }

  private static String settings(Random random, int without) {
    StringBuilder text = new StringBuilder("{\n  \"step\": 7");
    for (int i = 0; i < 6; i++) {
      if (i != without) {
        text.append(",\n  \"group ").append(i).append("\": {\"a/b\": ");
        text.append(random.nextInt(1000)).append(".50, \"list\": [1, ");
        text.append(random.nextInt(9)).append("e3, \"x\"], \"on\": ").append(random.nextBoolean());
        text.append("}");
      }
    }
    return text.append("\n}\n").toString();
  }

  @Test
  void valuesOfSettings() throws IOException {
    Random random = new Random(20311015);
    for (int i = 0; i < PICKS; i++) {
      Result result =
          brought(
              "json",
              settings(random, -1).getBytes(),
              settings(random, -1).getBytes(),
              p -> !p.id().equals("step"),
              random);
      assertThat(JsonMapper.shared().readTree(Files.readAllBytes(result.file())).size())
          .isEqualTo(7);
    }
    byte[] lacking = settings(random, 3).getBytes();
    Source from = file("json", settings(random, -1).getBytes());
    Path target = folder.resolve("section.json");
    Written written =
        restore.write(file("json", lacking), List.of(new Pick(from, List.of("group 3"))), target);
    assertThat(written.unequal()).isEmpty();
    assertThat(JsonMapper.shared().readTree(Files.readAllBytes(target)).path("group 3"))
        .isEqualTo(JsonMapper.shared().readTree(Files.readAllBytes(from.file())).path("group 3"));
  }

  private static byte[] zip(Random random, int without) throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
      for (int i = 0; i < 6; i++) {
        if (i != without) {
          byte[] content = new byte[random.nextInt(4000)];
          random.nextBytes(content);
          Arrays.fill(content, 0, content.length / 2, (byte) i);
          zip.putNextEntry(new ZipEntry("rooms/entry " + i + ".bin"));
          zip.write(content);
          zip.closeEntry();
        }
      }
    }
    return bytes.toByteArray();
  }

  /** A result with fields, one of them in a group, and some with other numbers by the seed. */
  private byte[] result(int fields, Random random) throws IOException {
    Path path = folder.resolve("h" + made++ + ".h5");
    try (WritableHdfFile file = HdfFile.write(path)) {
      file.putAttribute("step", 7L);
      WritableGroup group = file.putGroup("brake disc");
      for (int f = 0; f < fields; f++) {
        double[][] numbers = new double[3 + f][4];
        for (double[] row : numbers) {
          Arrays.setAll(row, i -> random.nextInt(1000) / 8.0);
        }
        (f % 2 == 0 ? file : group).putDataset("field " + f, numbers).putAttribute("unit", "K");
      }
      group.putDataset("rings", new int[] {1, 2, random.nextInt(9)});
    }
    return Files.readAllBytes(path);
  }

  @Test
  void fieldsOfResults() throws IOException {
    Random random = new Random(20311019);
    for (int i = 0; i < PICKS; i++) {
      byte[] older = result(3 + random.nextInt(4), random);
      byte[] newer = result(1 + random.nextInt(4), random);
      Result result = brought("h5", newer, older, p -> p.kind().equals("field"), random);
      if (i < VALIDATED) {
        JsonNode seen = JsonMapper.shared().readTree(tool("read-h5.mjs", result.file()));
        assertThat(seen.path("step").asInt()).isEqualTo(7);
        assertThat(seen.path("fields").propertyNames()).containsAll(result.picked());
      }
    }
  }

  @Test
  void entriesOfArchives() throws IOException {
    Random random = new Random(20311016);
    for (int i = 0; i < PICKS; i++) {
      byte[] older = zip(random, -1);
      Result result = brought("zip", zip(random, random.nextInt(6)), older, p -> true, random);
      Path before = Files.write(folder.resolve("before.zip"), older);
      try (ZipFile now = new ZipFile(result.file().toFile());
          ZipFile then = new ZipFile(before.toFile())) {
        for (String name : result.picked()) {
          assertThat(now.getInputStream(now.getEntry(name)).readAllBytes())
              .isEqualTo(then.getInputStream(then.getEntry(name)).readAllBytes());
        }
      }
    }
  }

  private static String sheet(Random random, int without) {
    StringBuilder text =
        new StringBuilder(
            "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 90 90\"><defs>"
                + "<linearGradient id=\"fade\"/></defs>");
    for (int i = 0; i < 6; i++) {
      if (i != without) {
        text.append("<g id=\"room ").append(i).append("\"><g id=\"door\"><path d=\"M0 0h");
        text.append(random.nextInt(90)).append("\" fill=\"url(#fade)\"/></g><text>Room ");
        text.append(random.nextInt(90)).append("</text></g>");
      }
    }
    return text.append("</svg>").toString();
  }

  @Test
  void groupsOfSheets() throws IOException {
    Random random = new Random(20311017);
    for (int i = 0; i < PICKS; i++) {
      brought(
          "svg",
          sheet(random, random.nextInt(6)).getBytes(),
          sheet(random, -1).getBytes(),
          p -> p.parent() == null && p.id().startsWith("room"),
          random);
    }
    byte[] plain = "<svg xmlns=\"http://www.w3.org/2000/svg\"><g id=\"floor\"/></svg>".getBytes();
    Source from = file("svg", sheet(random, -1).getBytes());
    Written written =
        restore.write(
            file("svg", plain),
            List.of(new Pick(from, List.of("room 2"))),
            folder.resolve("with.svg"));
    assertThat(written.unequal()).isEmpty();
    assertThat(written.brought().get(0).along()).containsExactly("fade");
  }

  private static String scene(Random random, int without) {
    StringBuilder text = new StringBuilder("<?xml version=\"1.0\"?>\n<scene>\n<unit>m</unit>");
    for (int i = 0; i < 6; i++) {
      if (i != without) {
        text.append("\n <node id=\"n").append(i).append("\" weight=\"");
        text.append(random.nextInt(90)).append("\">\n  <mesh name=\"body\">");
        for (int k = 0; k < 3000; k++) {
          text.append(random.nextInt(1000)).append(k % 7 == 0 ? "\n" : " ");
        }
        text.append("</mesh>\n </node>");
      }
    }
    return text.append("\n</scene>\n").toString();
  }

  @Test
  void sectionsOfXml() throws IOException {
    Random random = new Random(20311020);
    for (int i = 0; i < PICKS; i++) {
      brought(
          "xml",
          scene(random, random.nextInt(6)).getBytes(),
          scene(random, -1).getBytes(),
          p -> p.kind().equals("section") && p.parent() == null,
          random);
    }
  }

  private static String notes(Random random, int without, String heading, String end) {
    StringBuilder text = new StringBuilder("made by hand").append(end).append(end);
    for (int i = 0; i < 6; i++) {
      if (i != without) {
        text.append(heading.replace("?", "part " + i)).append(end);
        for (int k = 0; k < 1 + random.nextInt(5); k++) {
          text.append("  k").append(k).append(" = ").append(random.nextInt(90)).append(" µm");
          text.append(end).append(random.nextInt(3) == 0 ? end : "");
        }
      }
    }
    return text.append(random.nextBoolean() ? "" : "no line end").toString();
  }

  /** Bytes that belong to no brought section stay, line ends and all. */
  @Test
  void sectionsOfPlainText() throws IOException {
    Random random = new Random(20311026);
    Map<String, String> kinds = Map.of("ini", "[?]", "md", "## ?", "inp", "*DEF, NAME=?");
    for (int i = 0; i < PICKS; i++) {
      for (Map.Entry<String, String> kind : kinds.entrySet()) {
        int gone = random.nextInt(7);
        String now = notes(random, gone, kind.getValue(), i % 2 == 0 ? "\r\n" : "\n");
        String then = notes(random, -1, kind.getValue(), "\n");
        Result result = brought(kind.getKey(), now.getBytes(), then.getBytes(), p -> true, random);
        String made = Files.readString(result.file());
        assertThat(made).startsWith(now.substring(0, 14));
        if (i % 2 == 0) {
          assertThat(made.replace("\r\n", "")).doesNotContain("\n");
        }
      }
    }
  }

  @Test
  void theMeshOfAPlyFile() throws IOException {
    Random random = new Random(20311021);
    for (int i = 0; i < PICKS; i++) {
      byte[] older = ModelFiles.ply(Meshes.cube(1 + random.nextInt(9)), ByteOrder.LITTLE_ENDIAN);
      byte[] newer = ModelFiles.plyText(Meshes.cube(10 + random.nextInt(9)), 4);
      Result result = brought("ply", newer, older, p -> true, random);
      assertThat(Files.readAllBytes(result.file())).isEqualTo(older);
    }
  }

  /** What is written to the side is read back with what lies beside the file it is made of. */
  @Test
  void aModelWithItsNumbersBesideItKeepsThem() throws IOException {
    MeshData cube = Meshes.cube(2);
    Files.write(folder.resolve("cube.bin"), ModelFiles.buffer(cube));
    Source base = file("gltf", ModelFiles.gltf("Cube", cube, "cube.bin", ""));
    Source from = file("glb", new EditedModel(3).glb());
    String part =
        parts(from).stream().filter(p -> p.kind().equals("mesh")).findFirst().orElseThrow().id();
    Path aside = Files.createDirectories(folder.resolve("aside"));
    Written written =
        restore.write(base, List.of(new Pick(from, List.of(part))), aside.resolve("version"));
    assertThat(written.unequal()).isEmpty();
    assertThat(written.untouched()).isPositive();
  }

  @Test
  void whatCannotBeTakenIsSaidAndNothingIsWritten() throws IOException {
    Path target = folder.resolve("never.glb");
    Source model = file("glb", new EditedModel(1).glb());
    Source cut = file("glb", Arrays.copyOf(new EditedModel(1).glb(), 900));
    Source unknown = file("mystery", new byte[] {1, 2, 3});
    for (Pick pick :
        List.of(
            new Pick(model, List.of("No such part")),
            new Pick(cut, List.of(parts(model).get(1).id())),
            new Pick(unknown, List.of("x")))) {
      assertThatThrownBy(() -> restore.write(model, List.of(pick), target))
          .isInstanceOf(CannotTake.class);
      assertThat(target).doesNotExist();
    }
    assertThatThrownBy(() -> restore.write(unknown, List.of(), target))
        .isInstanceOf(CannotTake.class)
        .hasMessageContaining("of this kind");
  }
}
