package dev.kavrin.core.health;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.disk.RealDisk;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The damage a machine does when it stops: blocks and ends of nothing, halves exchanged, blocks
 * written twice, files cut short. What is found of it stands in docs/formats.md.
 */
class DamageTest {
  /** Numbers that may be zero, with nothing that tells whether they are: only cuts show. */
  private static final Set<String> BARE = Set.of("h5", "wav", "bmp", "tif", "gif", "jpg", "sqlite");

  /** A line behind another is whole, whichever they are. */
  private static final Set<String> LINES = Set.of("csv", "obj", "vtk");

  @TempDir Path folder;
  private final HealthCheck check = new HealthCheck(new RealDisk());
  private final Map<String, int[]> found = new LinkedHashMap<>();

  @ParameterizedTest
  @ValueSource(
      strings = {
        "zip", "gz", "zst", "png", "wav", "sqlite", "h5", "xml", "stl", "ply", "vtk", "glb", "gltf",
        "obj", "dxf", "csv", "jpg", "tif", "gif", "bmp"
      })
  void nothingOfItIsCalledIntactWhereItsFormatCanTell(String ext) throws Exception {
    byte[] whole = Files.readAllBytes(new WholeFiles(folder).of(ext));
    boolean tells = !BARE.contains(ext);
    for (int tenth = 1; tenth < 10; tenth++) {
      int at = (int) ((long) whole.length * tenth / 10);
      for (int length = 512; length <= 1 << 20 && at + length < whole.length; length *= 2) {
        judge(ext, "zero block", zeroed(whole, at, at + length), tells);
      }
      judge(ext, "block twice", repeated(whole, at), false);
    }
    for (int percent : new int[] {1, 2, 5, 10, 15, 22, 35, 50, 75, 90, 99}) {
      int from = (int) ((long) whole.length * (100 - percent) / 100);
      boolean seen = whole.length - from > 128;
      judge(ext, "zero tail", zeroed(whole, from, whole.length), tells && seen);
      judge(ext, "cut", Arrays.copyOf(whole, from), !LINES.contains(ext));
    }
    judge(ext, "halves exchanged", exchanged(whole), tells && !LINES.contains(ext));
    StringBuilder line = new StringBuilder("| ").append(ext);
    found.forEach(
        (kind, n) ->
            line.append(" | ").append(kind).append(' ').append(n[0]).append('/').append(n[1]));
    System.out.println(line);
  }

  /**
   * @param must true if it may not be called intact
   */
  private void judge(String ext, String kind, byte[] bad, boolean must) throws IOException {
    Path file = Files.write(folder.resolve("bad." + ext), bad);
    Verdict verdict = check.inspect(file, "bad." + ext).verdict();
    int[] count = found.computeIfAbsent(kind, k -> new int[2]);
    count[0] += verdict == Verdict.INTACT ? 0 : 1;
    count[1]++;
    if (must) {
      assertThat(verdict)
          .as("%s of %s, %d bytes", kind, ext, bad.length)
          .isNotEqualTo(Verdict.INTACT);
    }
  }

  private static byte[] zeroed(byte[] whole, int from, int to) {
    byte[] bad = whole.clone();
    Arrays.fill(bad, from, to, (byte) 0);
    return bad;
  }

  private static byte[] repeated(byte[] whole, int at) {
    byte[] bad = whole.clone();
    int length = Math.min(4096, Math.min(at, whole.length - at));
    System.arraycopy(whole, at - length, bad, at, length);
    return bad;
  }

  private static byte[] exchanged(byte[] whole) {
    int half = whole.length / 2;
    byte[] bad = Arrays.copyOfRange(whole, half, whole.length + half);
    System.arraycopy(whole, 0, bad, whole.length - half, half);
    return bad;
  }
}
