package dev.kavrin.core.export;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import dev.kavrin.core.content.PartWriter.CannotTake;
import dev.kavrin.core.content.PartWriter.Opened;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.SiblingFilesOnDisk;
import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.MappingIterator;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.dataformat.csv.CsvMapper;
import tools.jackson.dataformat.csv.CsvSchema;

/**
 * What is written is read by others and measured equal: glTF by jgltf, OBJ, STL and PLY by the
 * loaders of three.js, DXF by dxf-parser, tables by the reader of Jackson. Of the legacy form of
 * VTK no reader is at hand but our own.
 */
class ExportTest {
  @TempDir Path folder;
  private final RealDisk disk = new RealDisk();

  private Path written(Path from, String ending) throws IOException {
    String name = from.getFileName().toString();
    Export export =
        Export.of(name).stream()
            .filter(e -> e.format().ending().equals(ending))
            .findFirst()
            .orElseThrow();
    assertThat(export.format().loses()).isNotEmpty();
    Path target = folder.resolve("written-" + name + "." + ending);
    try (SeekableByteChannel in = disk.read(from);
        OutputStream out = Files.newOutputStream(target)) {
      export.write(new Opened(in, name, new SiblingFilesOnDisk(disk, from)), out);
    }
    HealthReport health = new HealthCheck(disk).inspect(target, target.toString());
    assertThat(health.verdict().trustworthy()).as(health.findings().toString()).isTrue();
    return target;
  }

  private static JsonNode tool(String name, Path file) throws IOException {
    Path tool = Path.of("..", "web", "tools", name).toAbsolutePath().normalize();
    Process process = new ProcessBuilder("node", tool.toString(), file.toString()).start();
    return JsonMapper.shared().readTree(process.getInputStream().readAllBytes());
  }

  private static MeshData box(Random random, float at) {
    float w = 1 + random.nextInt(5);
    float h = 1 + random.nextInt(5);
    float[] points = new float[24];
    for (int i = 0; i < 8; i++) {
      points[3 * i] = at + (i & 1) * w;
      points[3 * i + 1] = (i >> 1 & 1) * h;
      points[3 * i + 2] = (i >> 2) * 2;
    }
    int[] corners = {
      0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1,
      3, 5, 3, 7, 5
    };
    return new MeshData(points, corners);
  }

  @Test
  void shapesOfModels() throws Exception {
    Random random = new Random(20311111);
    GlbWriter writer = new GlbWriter();
    double area = 0;
    double volume = 0;
    for (int i = 0; i < 5; i++) {
      MeshData box = box(random, 10 * i);
      area += box.area();
      volume += box.signedVolume();
      writer.mesh("part " + i, -1, box, new double[] {0, i, 0}, null, -1);
    }
    Path model = Files.write(folder.resolve("a.glb"), writer.bytes(Map.of()));
    for (String ending : List.of("obj", "stl", "ply")) {
      JsonNode read = tool("read-mesh.mjs", written(model, ending));
      assertThat(read.path("triangles").asInt()).as(ending).isEqualTo(60);
      assertThat(read.path("area").asDouble()).as(ending).isCloseTo(area, within(1e-3 * area));
      assertThat(read.path("volume").asDouble())
          .as(ending)
          .isCloseTo(volume, within(1e-3 * volume));
      assertThat(read.path("parts").asInt()).isEqualTo(ending.equals("obj") ? 5 : 1);
    }
    Path glb = written(written(model, "obj"), "glb");
    GltfModel back = new GltfModelReader().read(glb.toUri());
    assertThat(back.getMeshModels()).hasSize(5);
    assertThat(back.getAccessorModels().stream().mapToInt(a -> a.getCount()).sum())
        .isEqualTo(5 * (8 + 36));
  }

  @Test
  void lineWorkOfDrawings() throws IOException {
    StringBuilder dxf = new StringBuilder("0\nSECTION\n2\nENTITIES\n");
    for (int i = 0; i < 30; i++) {
      dxf.append("0\nLINE\n8\n").append(i % 2 == 0 ? "Moebel lang" : "wall").append("\n10\n");
      dxf.append(i).append("\n20\n0.25\n11\n").append(i + 1.5).append("\n21\n").append(i);
      dxf.append('\n');
    }
    Path sheet = Files.writeString(folder.resolve("a.dxf"), dxf + "0\nENDSEC\n0\nEOF\n");
    JsonNode read = tool("read-dxf.mjs", written(sheet, "r12.dxf"));
    assertThat(read.toString()).isEqualTo("{\"MOEBEL_LANG\":15,\"WALL\":15}");
    Path none = Files.writeString(folder.resolve("none.dxf"), "0\nEOF\n");
    assertThatThrownBy(() -> written(none, "r12.dxf")).isInstanceOf(CannotTake.class);
  }

  @Test
  void numbersOfFields() throws IOException {
    double[][] grid = {{1, 2.5, -3e-7}, {4, 5, 1.0e9}};
    Path result = folder.resolve("a.h5");
    try (WritableHdfFile file = HdfFile.write(result)) {
      file.putDataset("heat \"core\"", grid);
      file.putDataset("time", new double[] {0.5, 1});
    }
    List<Double> heat = new ArrayList<>();
    List<String> time = new ArrayList<>();
    Path table = written(result, "csv");
    try (MappingIterator<Map<String, String>> rows =
        new CsvMapper()
            .readerFor(Map.class)
            .with(CsvSchema.emptySchema().withHeader())
            .readValues(table.toFile())) {
      while (rows.hasNext()) {
        Map<String, String> row = rows.next();
        String column = row.keySet().stream().filter(n -> n.contains("\"core\"")).findFirst().get();
        heat.add(Double.valueOf(row.get(column)));
        time.add(row.get("time"));
      }
    }
    assertThat(heat).containsExactly(1.0, 2.5, -3e-7, 4.0, 5.0, 1.0e9);
    assertThat(time).containsExactly("0.5", "1.0", "", "", "", "");
    Path vtk = written(result, "vtk");
    assertThat(vtk).content().contains("DIMENSIONS 3 2 1", "POINT_DATA 6");
    assertThat(new HealthCheck(disk).inspect(vtk, "a.vtk").inventory().parts())
        .anyMatch(p -> p.label().contains("core") && p.measures().get("max").value() == 1e9);
  }

  @Test
  void eachFormatIsMadeOfWhatHasIt() {
    assertThat(Export.of("a.gltf"))
        .extracting(e -> e.format().ending())
        .contains("glb", "obj", "ply", "stl");
    assertThat(Export.of("a.obj"))
        .extracting(e -> e.format().ending())
        .doesNotContain("obj", "csv");
    assertThat(Export.of("a.png")).isEmpty();
  }
}
