package dev.kavrin.core.content.gltf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import dev.kavrin.core.compare.Comparer;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.Outcome;
import dev.kavrin.core.content.ContentReader.Reading;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.CrashDisk;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/**
 * Layout by the glTF 2.0 specification (ISO/IEC 12113:2022, sections 3.6 and 4.4); what we write is
 * read by jgltf and by the Khronos validator from npm, both independent of this project.
 */
class GlbReaderTest {
  private static final Path WEB = Path.of("..", "web").toAbsolutePath().normalize();
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");

  @TempDir Path folder;

  private static byte[] carriage() {
    return carriage("pictures/wood.png");
  }

  private static byte[] carriage(String picture) {
    GlbWriter writer = new GlbWriter();
    int paint = writer.material("Paint", 0.5, 0.2, 0.1);
    int textured = picture == null ? paint : writer.picturedMaterial("Wood", picture);
    int group = writer.group("Body", -1);
    writer.mesh("Cube", group, Meshes.cube(2), new double[] {1, 0, 0}, null, paint);
    writer.mesh("Cube", group, Meshes.tetrahedron(), null, null, paint);
    MeshData sphere = Meshes.sphere(1, 12);
    writer.mesh("Lamp / front", -1, sphere, null, new float[sphere.vertices() * 2], textured);
    return writer.bytes(Map.of("made", "test"));
  }

  private Path file(String name, byte[] bytes) throws IOException {
    return Files.write(folder.resolve(name), bytes);
  }

  private static HealthReport inspect(byte[] bytes) throws IOException {
    CrashDisk disk = new CrashDisk();
    Path path = Path.of("/x.glb");
    try (Sink sink = disk.create(path)) {
      sink.write(bytes, 0, bytes.length);
    }
    return new HealthCheck(disk).inspect(path, "x.glb");
  }

  private Reading read(byte[] bytes) throws IOException {
    try (SeekableByteChannel in = Files.newByteChannel(file("r.glb", bytes))) {
      return new GlbReader().read(in);
    }
  }

  @Test
  void readsPartsGroupsAndLinks() throws IOException {
    Inventory inventory = read(carriage()).inventory();

    assertThat(inventory.parts())
        .extracting(Part::id)
        .containsExactly("Body", "Body/Cube", "Body/Cube #2", "Lamp ∕ front");
    assertThat(inventory.links()).extracting(l -> l.uri()).containsExactly("pictures/wood.png");
    Part cube = inventory.parts().get(1);
    assertThat(cube.bounds().min()).containsExactly(1, 0, 0);
    assertThat(cube.bounds().max()).containsExactly(3, 2, 2);
  }

  /**
   * Formulas for area and volume: any handbook of geometry; the sphere's and torus's in the limit.
   */
  @Test
  void measuresKnownSolids() {
    assertThat(Meshes.tetrahedron().signedVolume()).isCloseTo(1 / 6.0, within(1e-7));
    assertThat(Meshes.tetrahedron().area()).isCloseTo(1.5 + Math.sqrt(3) / 2, within(1e-6));
    assertThat(Meshes.cube(2).signedVolume()).isCloseTo(8, within(1e-6));
    assertThat(Meshes.cube(2).area()).isCloseTo(24, within(1e-6));
    MeshData sphere = Meshes.sphere(2, 200);
    assertThat(sphere.signedVolume()).isCloseTo(4.0 / 3 * Math.PI * 8, within(0.02));
    assertThat(sphere.area()).isCloseTo(4 * Math.PI * 4, within(0.02));
    MeshData torus = Meshes.torus(3, 1, 200);
    assertThat(torus.signedVolume()).isCloseTo(2 * Math.PI * Math.PI * 3, within(0.05));
    assertThat(torus.area()).isCloseTo(4 * Math.PI * Math.PI * 3, within(0.05));
    assertThat(torus.turnedRound().signedVolume())
        .isCloseTo(-2 * Math.PI * Math.PI * 3, within(0.05));
  }

  @Test
  @Timeout(120)
  void everyTruncationIsFound() throws IOException {
    byte[] whole = carriage();
    assertThat(inspect(whole).verdict()).isEqualTo(Verdict.INTACT);
    int step = FULL ? 1 : 7;
    for (int cut = 0; cut < whole.length; cut += step) {
      byte[] part = java.util.Arrays.copyOf(whole, cut);
      HealthReport report = inspect(part);
      assertThat(report.verdict()).as("cut at %s", cut).isEqualTo(Verdict.DAMAGED);
    }
  }

  @Test
  void whatCouldBeReadOfACutFileIsShown() throws IOException {
    byte[] whole = carriage();
    Inventory left = read(java.util.Arrays.copyOf(whole, whole.length - 100)).inventory();
    assertThat(left.counted()).hasSize(3);
    assertThat(left.counted()).filteredOn(Part::readable).hasSize(2);
  }

  @Test
  @Timeout(120)
  void noBytesMakeTheReaderThrowOrHang() throws IOException {
    byte[] whole = carriage();
    Random random = new Random(7);
    for (int round = 0; round < (FULL ? 5000 : 500); round++) {
      byte[] hurt = whole.clone();
      for (int hit = 0; hit <= random.nextInt(4); hit++) {
        hurt[random.nextInt(hurt.length)] = (byte) random.nextInt(256);
      }
      HealthReport report = inspect(hurt);
      assertThat(report.verdict()).isNotNull();
    }
  }

  @Test
  void damageOfEachKindIsNamed() throws IOException {
    byte[] whole = carriage();
    assertThat(codes(new byte[0])).containsExactly("empty");
    assertThat(codes(new byte[4096])).containsExactly("zero-filled");
    assertThat(codes(java.util.Arrays.copyOf(whole, whole.length + 8))).contains("wrong-length");
    byte[] version = whole.clone();
    version[4] = 1;
    assertThat(codes(version)).containsExactly("version");
  }

  /** 2 GB of zeros, sparse on disk: told at once, without reading it all. */
  @Test
  void twoGigabytesOfZerosAreToldAtOnce() throws IOException {
    Path zeros = folder.resolve("zeros.glb");
    try (RandomAccessFile raf = new RandomAccessFile(zeros.toFile(), "rw")) {
      raf.setLength(2_000_000_000L);
    }
    HealthReport report =
        Assertions.assertTimeoutPreemptively(
            Duration.ofSeconds(10),
            () -> new HealthCheck(new RealDisk()).inspect(zeros, "zeros.glb"));
    assertThat(report.verdict()).isEqualTo(Verdict.DAMAGED);
    assertThat(report.findings().get(0).code()).isEqualTo("zero-filled");
  }

  @Test
  void accessorsThatLeaveTheirBufferAreDamage() throws IOException {
    byte[] bytes = edited(s -> s.replaceFirst("\"count\":8", "\"count\":9"));
    assertThat(codes(bytes)).contains("accessor-bounds");
  }

  private List<String> codes(byte[] bytes) throws IOException {
    return read(bytes).findings().stream().map(f -> f.code()).toList();
  }

  /** The carriage with its structure rewritten, lengths kept right. */
  private static byte[] edited(UnaryOperator<String> edit) {
    byte[] whole = carriage();
    ByteBuffer in = ByteBuffer.wrap(whole).order(ByteOrder.LITTLE_ENDIAN);
    int jsonLength = in.getInt(12);
    String json = new String(whole, 20, jsonLength, StandardCharsets.UTF_8);
    byte[] changed = edit.apply(json).getBytes(StandardCharsets.UTF_8);
    int padded = (changed.length + 3) / 4 * 4;
    int rest = whole.length - 20 - jsonLength;
    ByteBuffer out = ByteBuffer.allocate(20 + padded + rest).order(ByteOrder.LITTLE_ENDIAN);
    out.putInt(in.getInt(0))
        .putInt(2)
        .putInt(20 + padded + rest)
        .putInt(padded)
        .putInt(in.getInt(16));
    out.put(changed);
    while (out.position() < 20 + padded) {
      out.put((byte) ' ');
    }
    out.put(whole, 20 + jsonLength, rest);
    return out.array();
  }

  @Test
  void jgltfReadsWhatWeWrite() throws IOException {
    GltfModel model =
        new GltfModelReader().readWithoutReferences(new ByteArrayInputStream(carriage(null)));
    assertThat(model.getMeshModels()).hasSize(3);
    assertThat(model.getAccessorModels().get(0).getCount()).isEqualTo(8);
    assertThat(model.getNodeModels())
        .extracting(n -> n.getName())
        .containsExactly("Body", "Cube", "Cube", "Lamp / front");
  }

  @Test
  void theValidatorAcceptsWhatWeWriteAndOurPreviews() throws Exception {
    Path model = file("carriage.glb", carriage());
    Path preview = folder.resolve("preview.glb");
    try (SeekableByteChannel in = Files.newByteChannel(model)) {
      Files.write(preview, GlbPreview.of(GlbFile.open(in), 200_000));
    }
    Path reduced = folder.resolve("reduced.glb");
    try (SeekableByteChannel in = Files.newByteChannel(model)) {
      Files.write(reduced, GlbPreview.of(GlbFile.open(in), 40));
    }
    for (Path path : List.of(model, preview, reduced)) {
      Process process =
          new ProcessBuilder(
                  "node", WEB.resolve("tools/validate-glb.mjs").toString(), path.toString())
              .redirectErrorStream(true)
              .start();
      String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
      assertThat(said.strip()).as(path.toString()).isEqualTo("0 errors");
    }
    try (SeekableByteChannel in = Files.newByteChannel(reduced)) {
      double faces =
          new GlbReader()
              .read(in).inventory().parts().stream().mapToDouble(p -> p.measure("faces")).sum();
      assertThat(faces).isBetween(1.0, 40.0);
    }
  }

  /**
   * The Stanford bunny as published in the npm package "bunny": 1,839 vertices, 3,674 triangles.
   */
  @Test
  void theStanfordBunnyComesThroughWholeAndOutsideOut() throws IOException {
    MeshData bunny = Meshes.bunny();
    GlbWriter writer = new GlbWriter();
    writer.mesh("bunny", -1, bunny, null, null, -1);
    Part read = read(writer.bytes(Map.of())).inventory().parts().get(0);

    assertThat(read.measure("vertices")).isEqualTo(1839);
    assertThat(read.measure("faces")).isEqualTo(3674);
    assertThat(read.measure("volume")).isCloseTo(bunny.signedVolume(), within(1e-9));
    assertThat(bunny.signedVolume()).isPositive();
  }

  @Test
  void comparisonCountsEveryPartOnceAndSaysWhatHappened() throws IOException {
    GlbWriter before = new GlbWriter();
    before.mesh("Same", -1, Meshes.cube(1), null, null, -1);
    before.mesh("Gone", -1, Meshes.tetrahedron(), null, null, -1);
    before.mesh("Moved", -1, Meshes.sphere(1, 8), null, null, -1);
    before.mesh("Turned", -1, Meshes.sphere(2, 8), null, null, -1);
    before.mesh("Old name", -1, Meshes.torus(3, 1, 9), null, null, -1);
    GlbWriter after = new GlbWriter();
    after.mesh("Same", -1, Meshes.cube(1), null, null, -1);
    after.mesh("Moved", -1, Meshes.sphere(1, 8), new double[] {0, 0.0042, 0}, null, -1);
    after.mesh("Turned", -1, Meshes.sphere(2, 8).turnedRound(), null, null, -1);
    after.mesh("New name", -1, Meshes.torus(3, 1, 9), null, null, -1);
    after.mesh("Brake shoe", -1, Meshes.cube(0.3f), null, null, -1);
    Path a = file("a.glb", before.bytes(Map.of()));
    Path b = file("b.glb", after.bytes(Map.of()));

    Comparison found =
        dev.kavrin.core.compare.FileComparison.of(new RealDisk(), a, "a.glb", b, "b.glb");

    assertThat(found.changes())
        .extracting(c -> c.label() + " " + c.outcome())
        .containsExactlyInAnyOrder(
            "Same SAME",
            "Gone REMOVED",
            "Moved SHIFTED",
            "Turned CHANGED",
            "New name RENAMED",
            "Brake shoe ADDED");
    assertThat(
            found.changes().stream()
                .filter(c -> c.label().equals("Moved"))
                .findFirst()
                .orElseThrow()
                .shift()
                .largest())
        .isCloseTo(0.0042, within(1e-6));
    assertThat(
            found.changes().stream()
                .filter(c -> c.label().equals("Turned"))
                .findFirst()
                .orElseThrow()
                .words())
        .isEqualTo("surfaces turned round");
    assertThat(found.sentence()).isEqualTo("B has 1 new part, lacks 1, 3 changed, 1 the same.");
    assertThat(
            Comparer.compare(
                read(before.bytes(Map.of())).inventory(),
                read(before.bytes(Map.of())).inventory(),
                dev.kavrin.core.compare.Insides.NONE,
                dev.kavrin.core.compare.Insides.NONE))
        .hasSize(5)
        .allMatch(c -> c.outcome() == Outcome.SAME);
  }
}
