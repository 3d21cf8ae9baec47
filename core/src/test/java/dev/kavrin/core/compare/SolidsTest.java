package dev.kavrin.core.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import dev.kavrin.core.compare.FileComparison.Source;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.gltf.Meshes;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.content.mesh.Topology;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import java.io.IOException;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Solids whose area and volume have formulas, in every format. Sources: formulas of the regular
 * solids, the sphere and the torus, as in any handbook (from memory: icosahedron of edge a, area 5
 * √3 a², volume 5 (3 + √5) a³ / 12; torus, area 4 π² R r, volume 2 π² R r²).
 */
class SolidsTest {
  @TempDir Path folder;

  private HealthReport report(String name, byte[] bytes) throws IOException {
    Path file = folder.resolve(name);
    Files.write(file, bytes);
    return new HealthCheck(new RealDisk()).inspect(file, name);
  }

  private Map<String, byte[]> everyFormat(MeshData mesh) throws IOException {
    byte[] buffer = ModelFiles.buffer(mesh);
    Files.write(folder.resolve("wheel set.bin"), buffer);
    return Map.of(
        "a.obj", ModelFiles.obj(Map.of("Wheel", mesh), 7),
        "a.stl", ModelFiles.stl(mesh),
        "text.stl", ModelFiles.stlText(Map.of("Wheel", mesh), 7),
        "a.ply", ModelFiles.ply(mesh, ByteOrder.LITTLE_ENDIAN),
        "big.ply", ModelFiles.ply(mesh, ByteOrder.BIG_ENDIAN),
        "text.ply", ModelFiles.plyText(mesh, 7),
        "inside.gltf", ModelFiles.gltf("Wheel", mesh, ModelFiles.dataUri(buffer), ""),
        "beside.gltf", ModelFiles.gltf("Wheel", mesh, "wheel%20set.bin", ""));
  }

  private void assertMeasures(MeshData mesh, double area, double volume, double share)
      throws IOException {
    for (Map.Entry<String, byte[]> file : everyFormat(mesh).entrySet()) {
      HealthReport report = report(file.getKey(), file.getValue());
      assertThat(report.verdict()).as(file.getKey()).isEqualTo(Verdict.INTACT);
      Part part = report.inventory().parts().get(0);
      assertThat(part.measure("area")).as(file.getKey()).isCloseTo(area, within(area * share));
      assertThat(part.measure("volume"))
          .as(file.getKey())
          .isCloseTo(volume, within(volume * share));
      assertThat(part.measure("faces")).isEqualTo(mesh.triangles());
      assertThat(part.measure("holes")).as(file.getKey()).isZero();
    }
  }

  @Test
  void regularSolidsMeasureAsTheirFormulasSayInEveryFormat() throws IOException {
    assertMeasures(Meshes.tetrahedron(), (3 + Math.sqrt(3)) / 2, 1.0 / 6, 1e-6);
    assertMeasures(Meshes.cube(2), 24, 8, 1e-6);
    assertMeasures(Meshes.icosahedron(), 20 * Math.sqrt(3), 10 * (3 + Math.sqrt(5)) / 3, 1e-6);
  }

  /** Facets inside a round body: the error falls with the square of their width. */
  @Test
  void roundSolidsConvergeWithTheSquareOfTheFacets() {
    double sphere = 4 * Math.PI * 8 / 3;
    double torus = 2 * Math.PI * Math.PI * 3;
    double before = 0;
    for (int n = 16; n <= 128; n *= 2) {
      double errorA = sphere - Meshes.sphere(2, n).signedVolume();
      double errorB = torus - Meshes.torus(3, 1, n).signedVolume();
      assertThat(errorA).isPositive();
      if (before > 0) {
        assertThat(Math.log(before / errorA) / Math.log(2)).isCloseTo(2, within(0.05));
      }
      before = errorA;
      assertThat(errorB / torus).isLessThan(20.0 / n / n);
    }
    assertThat(Meshes.sphere(2, 128).area()).isCloseTo(16 * Math.PI, within(0.05));
    assertThat(Meshes.torus(3, 1, 128).area()).isCloseTo(12 * Math.PI * Math.PI, within(0.2));
  }

  /** A sphere of radius r: every point of its surface is r from its centre. */
  @Test
  void centreAndSpreadAreThoseOfTheBody() {
    float[] points = Meshes.sphere(2, 96).points().clone();
    for (int i = 0; i < points.length; i++) {
      points[i] += 5 + i % 3;
    }
    MeshData.Surface surface = new MeshData(points, Meshes.sphere(2, 96).corners()).surface();
    assertThat(surface.centroid()).containsExactly(new double[] {5, 6, 7}, within(1e-3));
    assertThat(surface.spread()).isCloseTo(2, within(0.01));
  }

  @Test
  void holesAndFacesWithoutAnAreaAreCounted() throws IOException {
    MeshData bunny = Meshes.bunny();
    Topology whole = Topology.of(bunny);
    int[] corners = bunny.corners();
    MeshData holed = new MeshData(bunny.points(), Arrays.copyOfRange(corners, 3, corners.length));
    assertThat(Topology.of(holed).open()).isEqualTo(whole.open() + 3);
    assertThat(Topology.of(holed).holes()).isEqualTo(whole.holes() + 1);
    int[] flat = Arrays.copyOf(corners, corners.length + 3);
    assertThat(Topology.of(new MeshData(bunny.points(), flat)).degenerate())
        .isEqualTo(whole.degenerate() + 1);
    int[] twisted = corners.clone();
    twisted[0] = corners[1];
    twisted[1] = corners[0];
    assertThat(Topology.of(new MeshData(bunny.points(), twisted)).twisted()).isEqualTo(3);
    assertThat(Topology.of(Meshes.cube(1)).isClosed()).isTrue();
    List<String> notes = new ArrayList<>();
    report("t.stl", ModelFiles.stl(Meshes.cube(1).turnedRound()))
        .findings()
        .forEach(f -> notes.add(f.words()));
    assertThat(notes).containsExactly("1 part turned inside out: surface.");
  }

  /** glTF 2.0, section 3.7.4: a mirroring transform turns the winding order round. */
  @Test
  void aMirroredBodyIsNotInsideOut() throws IOException {
    MeshData cube = Meshes.cube(1);
    String uri = ModelFiles.dataUri(ModelFiles.buffer(cube));
    byte[] mirrored = ModelFiles.gltf("Wheel", cube, uri, ",\"scale\":[-1,1,1]");
    Part part = report("m.gltf", mirrored).inventory().parts().get(0);
    assertThat(part.measure("volume")).isCloseTo(1, within(1e-6));
  }

  @Test
  void dataThatLiesElsewhereIsToldAndNothingOutsideTheFolderIsOpened() throws IOException {
    MeshData cube = Meshes.cube(1);
    Files.write(folder.resolve("out.bin"), ModelFiles.buffer(cube));
    Path within = Files.createDirectory(folder.resolve("scenes"));
    for (String uri : List.of("gone.bin", "../out.bin", folder.resolve("out.bin").toString())) {
      Path file = within.resolve("s.gltf");
      Files.write(file, ModelFiles.gltf("Wheel", cube, uri, ""));
      HealthReport report = new HealthCheck(new RealDisk()).inspect(file, "s.gltf");
      assertThat(report.verdict()).as(uri).isEqualTo(Verdict.NO_FAULT);
      assertThat(report.reason()).contains("not beside this copy");
      assertThat(report.inventory().parts().get(0).readable()).isFalse();
    }
  }

  /** Written again as another format, with fewer digits or in another order, it is the same. */
  @Test
  void savingAgainInAnotherFormatChangesNothing() throws IOException {
    MeshData bunny = Meshes.bunny();
    List<Path> files = new ArrayList<>();
    for (Map.Entry<String, byte[]> file : everyFormat(bunny).entrySet()) {
      Files.write(folder.resolve(file.getKey()), file.getValue());
      files.add(folder.resolve(file.getKey()));
    }
    Files.write(folder.resolve("coarse.obj"), ModelFiles.obj(Map.of("Wheel", bunny), 4));
    files.add(folder.resolve("coarse.obj"));
    for (Path a : files) {
      for (Path b : files) {
        Comparison found = compared(a, b, null);
        assertThat(found.changes()).as("%s against %s", a, b).hasSize(1);
        assertThat(found.changes().get(0).outcome())
            .as("%s against %s", a.getFileName(), b.getFileName())
            .isIn(Outcome.SAME, Outcome.RENAMED);
      }
    }
  }

  private static Comparison compared(Path a, Path b, Tolerance tolerance) throws IOException {
    return FileComparison.of(
        new RealDisk(),
        Source.of(a, a.getFileName().toString()),
        Source.of(b, b.getFileName().toString()),
        tolerance);
  }

  @Test
  void theBunnyMovedScaledHoledAndTurnedIsToldWithNumbers() throws IOException {
    MeshData bunny = Meshes.bunny();
    float[] moved = bunny.points().clone();
    float[] scaled = bunny.points().clone();
    for (int i = 0; i < moved.length; i++) {
      moved[i] += i % 3 == 1 ? 0.25f : 0;
      scaled[i] *= 1.02f;
    }
    float[] dented = bunny.points().clone();
    dented[3 * 700] += 0.1f;
    int[] corners = bunny.corners();
    Path a = write("a.ply", bunny);
    PartChange change = only(a, write("moved.ply", new MeshData(moved, corners)));
    assertThat(change.outcome()).isEqualTo(Outcome.SHIFTED);
    assertThat(change.shift().largest()).isCloseTo(0.25, within(1e-5));
    change = only(a, write("scaled.ply", new MeshData(scaled, corners)));
    assertThat(change.outcome()).isEqualTo(Outcome.CHANGED);
    assertThat(change.numbers().get("area").b() / change.numbers().get("area").a())
        .isCloseTo(1.02 * 1.02, within(1e-5));
    change = only(a, write("turned.ply", bunny.turnedRound()));
    assertThat(change.words()).isEqualTo("surfaces turned round");
    MeshData holed = new MeshData(bunny.points(), Arrays.copyOfRange(corners, 30, corners.length));
    assertThat(only(a, write("holed.ply", holed)).words()).isEqualTo("−10 faces");
    Path dent = write("dented.ply", new MeshData(dented, corners));
    assertThat(only(a, dent).shift().largest()).isCloseTo(0.1, within(1e-5));
    assertThat(compared(a, dent, new Tolerance(0.2)).count(Outcome.SAME)).isEqualTo(1);
  }

  private Path write(String name, MeshData mesh) throws IOException {
    return Files.write(folder.resolve(name), ModelFiles.ply(mesh, ByteOrder.LITTLE_ENDIAN));
  }

  private static PartChange only(Path a, Path b) throws IOException {
    return compared(a, b, null).changes().get(0);
  }
}
