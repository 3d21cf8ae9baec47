package dev.kavrin.core.health;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.disk.RealDisk;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Files written by other libraries, whole and damaged. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FormatsTest {
  private static final int DAMAGED = Boolean.getBoolean("kavrin.full") ? 1000 : 200;

  @TempDir Path folder;
  private final HealthCheck check = new HealthCheck(new RealDisk());

  @ParameterizedTest
  @ValueSource(
      strings = {
        "zip", "gz", "zst", "png", "wav", "sqlite", "h5", "xml", "stl", "ply", "vtk", "jpg", "tif",
        "gif", "bmp"
      })
  void whatOtherLibrariesWriteIsIntact(String ext) throws Exception {
    Path file = new WholeFiles(folder).of(ext);
    HealthReport report = check.inspect(file, file.getFileName().toString());
    assertThat(report.findings()).allMatch(f -> f.severity() == Finding.Severity.NOTE);
    assertThat(report.verdict()).isEqualTo(Verdict.INTACT);
  }

  /** Projects of programs nobody knows are often one of these inside. */
  @ParameterizedTest
  @ValueSource(strings = {"zip", "gz", "zst", "png", "wav", "sqlite", "ply"})
  void containersAreKnownByTheirFirstBytes(String ext) throws Exception {
    Path file =
        Files.copy(new WholeFiles(folder).of(ext), folder.resolve("project-" + ext + ".incline"));
    assertThat(check.inspect(file, "project.incline").verdict()).isEqualTo(Verdict.INTACT);
  }

  /**
   * Most of these carry a length, a checksum or an end mark, so no cut may be called intact; legacy
   * VTK counts only what stands in each block, and lines carry nothing of the kind.
   */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "zip", "gz", "zst", "png", "wav", "sqlite", "h5", "xml", "stl", "ply", "vtk", "glb", "gltf",
        "obj", "dxf", "svg", "csv", "jpg", "tif", "gif", "bmp"
      })
  @Timeout(300)
  void damageIsFoundAndNeverBreaksTheReader(String ext) throws Exception {
    byte[] good = Files.readAllBytes(new WholeFiles(folder).of(ext));
    Random random = new Random(ext.hashCode());
    Map<String, int[]> found = new LinkedHashMap<>();
    for (int i = 0; i < DAMAGED; i++) {
      String kind = new String[] {"cut", "zeroed", "flipped", "swapped"}[i % 4];
      byte[] bad = damaged(good, kind, random);
      if (Arrays.equals(bad, good)) {
        continue;
      }
      Path file = Files.write(folder.resolve("bad." + ext), bad);
      HealthReport report = check.inspect(file, "bad." + ext);
      boolean told = report.verdict() == Verdict.DAMAGED || report.verdict() == Verdict.DOUBTFUL;
      int[] count = found.computeIfAbsent(kind, k -> new int[2]);
      count[0] += told ? 1 : 0;
      count[1]++;
      if (kind.equals("cut") && !Set.of("vtk", "obj", "csv").contains(ext)) {
        assertThat(told).as("%s cut to %d of %d bytes", ext, bad.length, good.length).isTrue();
      }
    }
    StringBuilder line = new StringBuilder("Damage found in " + ext + ":");
    found.forEach(
        (k, n) -> line.append(' ').append(k).append(' ').append(n[0]).append('/').append(n[1]));
    System.out.println(line);
  }

  private static byte[] damaged(byte[] good, String kind, Random random) {
    byte[] bad = good.clone();
    switch (kind) {
      case "cut" -> {
        return Arrays.copyOf(good, random.nextInt(good.length));
      }
      case "zeroed" -> {
        int from = random.nextInt(good.length);
        Arrays.fill(bad, from, Math.min(good.length, from + 512), (byte) 0);
      }
      case "flipped" -> bad[random.nextInt(good.length)] ^= (byte) (1 << random.nextInt(8));
      default -> {
        int half = good.length / 2;
        System.arraycopy(good, half, bad, 0, good.length - half);
        System.arraycopy(good, 0, bad, good.length - half, half);
      }
    }
    return bad;
  }

  @Test
  void aSmallFileOfNothingButZerosIsDoubtful() throws Exception {
    Path file = Files.write(folder.resolve("zeros.mystery"), new byte[100]);
    assertThat(check.inspect(file, "zeros.mystery").verdict()).isEqualTo(Verdict.DOUBTFUL);
  }

  @Test
  void aKindNobodyKnowsIsJudgedByItsSiblings() throws Exception {
    Path file = Files.write(folder.resolve("a.mystery"), WholeFiles.noise(200_000, 7));
    HealthReport report = check.inspect(file, "a.mystery");
    assertThat(report.verdict()).isEqualTo(Verdict.NO_FAULT);
    byte[] usual = {'T', 'R', 'N', '1'};
    var sibling = new Siblings.Looks(210_000, usual, false);
    var before = List.of(sibling, sibling, sibling);
    assertThat(
            Siblings.compare(report, new Siblings.Looks(200_000, usual, false), before).verdict())
        .isEqualTo(Verdict.NO_FAULT);
    assertThat(
            verdicts(report, new Siblings.Looks(200_000, new byte[] {0, 0, 0, 0}, false), before))
        .contains("first-bytes");
    assertThat(verdicts(report, new Siblings.Looks(90_000, usual, false), before))
        .contains("small");
    assertThat(verdicts(report, new Siblings.Looks(200_000, usual, true), before)).contains("hole");
    var known = new HealthReport(Verdict.INTACT, List.of(), Inventory.OPAQUE);
    assertThat(Siblings.compare(known, new Siblings.Looks(1, usual, true), before)).isSameAs(known);
  }

  private static String verdicts(
      HealthReport report, Siblings.Looks own, List<Siblings.Looks> before) {
    HealthReport compared = Siblings.compare(report, own, before);
    assertThat(compared.verdict()).isEqualTo(Verdict.DOUBTFUL);
    return compared.findings().toString();
  }
}
