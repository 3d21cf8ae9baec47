package dev.kavrin.bench;

import de.javagl.jgltf.model.AccessorFloatData;
import de.javagl.jgltf.model.AccessorModel;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.FileComparison;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import dev.kavrin.core.disk.RealDisk;
import java.io.BufferedOutputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Random;

/**
 * Comparing two models of a million triangles against a library that reads both, two drawings of
 * 200 MB against reading their lines, two files of 1 GB that nobody can read against {@code cmp}.
 */
final class CompareBench {
  private static final int TURNS = 5;
  private static final int GRID = 708;
  private static final int PARTS = 4;
  private static final long OPAQUE = 1_000_000_000;
  private static final long DRAWING = 200_000_000;
  private static final int BLOCK = 1 << 20;

  private CompareBench() {}

  static void run(Path folder) throws Exception {
    models(folder);
    drawings(folder);
    opaque(folder);
  }

  private static double compared(Path a, Path b) throws IOException {
    long start = System.nanoTime();
    Comparison found =
        FileComparison.of(
            new RealDisk(), a, a.getFileName().toString(), b, b.getFileName().toString());
    double seconds = (System.nanoTime() - start) / 1e9;
    if (found.sentence().startsWith("No ")) {
      throw new IllegalStateException(found.sentence());
    }
    return seconds;
  }

  private static void models(Path folder) throws Exception {
    Path a = folder.resolve("a.glb");
    Path b = folder.resolve("b.glb");
    Files.write(a, model(0));
    Files.write(b, model(0.004f));
    for (int warm = 0; warm < 3; warm++) {
      parsed(a, b);
      compared(a, b);
    }
    Contest.run(
        "compare: two models of 1,000,000 triangles",
        TURNS,
        5,
        turn -> compared(a, b),
        "jgltf",
        turn -> parsed(a, b));
  }

  /** A million triangles in four parts. */
  static byte[] model(float dent) {
    GlbWriter writer = new GlbWriter();
    for (int part = 0; part < PARTS; part++) {
      writer.mesh(
          "Part " + part, -1, surface(GRID / 2, part + 1, part == 2 ? dent : 0), null, null, -1);
    }
    return writer.bytes(Map.of());
  }

  /** A closed surface of 2·n·n triangles. */
  private static MeshData surface(int n, double radius, float dent) {
    float[] points = new float[n * n * 3];
    int[] corners = new int[n * n * 6];
    for (int j = 0; j < n; j++) {
      for (int i = 0; i < n; i++) {
        double u = 2 * Math.PI * i / n;
        double v = 2 * Math.PI * j / n;
        double r = 3 * radius + radius * Math.cos(v);
        int at = (j * n + i) * 3;
        points[at] = (float) (r * Math.cos(u));
        points[at + 1] = (float) (r * Math.sin(u));
        points[at + 2] = (float) (radius * Math.sin(v));
        int right = j * n + (i + 1) % n;
        int up = (j + 1) % n * n + i;
        int both = (j + 1) % n * n + (i + 1) % n;
        int[] two = {j * n + i, right, both, j * n + i, both, up};
        System.arraycopy(two, 0, corners, (j * n + i) * 6, 6);
      }
    }
    points[300] += dent;
    return new MeshData(points, corners);
  }

  /** Reads both and touches every point, as anybody has to who wants to know them. */
  private static double parsed(Path a, Path b) throws IOException {
    long start = System.nanoTime();
    double sum = 0;
    for (Path file : new Path[] {a, b}) {
      GltfModel model = new GltfModelReader().read(file.toUri());
      for (AccessorModel accessor : model.getAccessorModels()) {
        if (accessor.getAccessorData() instanceof AccessorFloatData points) {
          for (int e = 0; e < points.getNumElements(); e++) {
            for (int k = 0; k < points.getNumComponentsPerElement(); k++) {
              sum += points.get(e, k);
            }
          }
        }
      }
    }
    if (Double.isNaN(sum)) {
      throw new IllegalStateException("not read");
    }
    return (System.nanoTime() - start) / 1e9;
  }

  private static void drawings(Path folder) throws Exception {
    Path a = folder.resolve("a.dxf");
    Path b = folder.resolve("b.dxf");
    drawing(a, 0);
    drawing(b, 0.5);
    lines(a, b);
    compared(a, b);
    Contest.run(
        "compare: two drawings of 200 MB",
        TURNS,
        3,
        turn -> compared(a, b),
        "lines",
        turn -> lines(a, b));
  }

  private static void drawing(Path file, double shift) throws IOException {
    Random random = new Random(3);
    long written = 0;
    try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file), BLOCK)) {
      byte[] head = "0\nSECTION\n2\nENTITIES\n".getBytes(StandardCharsets.US_ASCII);
      out.write(head);
      for (long n = 0; written < DRAWING; n++) {
        String line =
            "0\nLINE\n8\nLayer "
                + n % 40
                + "\n10\n"
                + (random.nextInt(1 << 20) / 64.0 + (n == 5000 ? shift : 0))
                + "\n20\n"
                + random.nextInt(1 << 20) / 64.0
                + "\n11\n"
                + random.nextInt(1 << 20) / 64.0
                + "\n21\n"
                + random.nextInt(1 << 20) / 64.0
                + "\n";
        out.write(line.getBytes(StandardCharsets.US_ASCII));
        written += line.length();
      }
      out.write("0\nENDSEC\n0\nEOF\n".getBytes(StandardCharsets.US_ASCII));
    }
  }

  private static double lines(Path a, Path b) throws IOException {
    long start = System.nanoTime();
    long bytes = 0;
    for (Path file : new Path[] {a, b}) {
      try (BufferedReader in = Files.newBufferedReader(file, StandardCharsets.ISO_8859_1)) {
        for (String line = in.readLine(); line != null; line = in.readLine()) {
          bytes += line.length();
        }
      }
    }
    if (bytes == 0) {
      throw new IllegalStateException("not read");
    }
    return (System.nanoTime() - start) / 1e9;
  }

  private static void opaque(Path folder) throws Exception {
    Path a = folder.resolve("a.tgm");
    Path aligned = folder.resolve("b.tgm");
    Path shifted = folder.resolve("c.tgm");
    noise(a, 0, false);
    noise(aligned, 0, true);
    noise(shifted, 777, true);
    compared(a, aligned);
    Contest.run(
        "compare: two files of 1 GB, bytes changed in place",
        TURNS,
        1.5,
        turn -> compared(a, aligned),
        "cmp",
        turn -> cmp(a, aligned));
    Contest.run(
        "compare: two files of 1 GB, all shifted by 777 bytes",
        TURNS,
        8,
        turn -> compared(a, shifted),
        "cmp",
        turn -> cmp(a, aligned));
    for (Path file : new Path[] {a, aligned, shifted}) {
      Files.delete(file);
    }
  }

  private static void noise(Path file, int before, boolean changed) throws IOException {
    Random random = new Random(11);
    byte[] block = new byte[BLOCK];
    try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file), BLOCK)) {
      out.write(new byte[before]);
      for (long n = 0; n * BLOCK < OPAQUE; n++) {
        random.nextBytes(block);
        if (changed && n == 400) {
          block[12_345] ^= 1;
        }
        out.write(block);
      }
    }
  }

  /** Every byte that differs is printed, so that it does not stop at the first. */
  private static double cmp(Path a, Path b) throws Exception {
    long start = System.nanoTime();
    Process process =
        new ProcessBuilder("cmp", "-l", a.toString(), b.toString())
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    if (process.waitFor() != 1) {
      throw new IllegalStateException("cmp found no difference");
    }
    return (System.nanoTime() - start) / 1e9;
  }
}
