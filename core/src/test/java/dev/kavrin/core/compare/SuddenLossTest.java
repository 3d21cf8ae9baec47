package dev.kavrin.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.content.ContentReader.Reading;
import dev.kavrin.core.content.Finding;
import dev.kavrin.core.content.SiblingFiles;
import dev.kavrin.core.content.dxf.DxfReader;
import dev.kavrin.core.content.gltf.GlbReader;
import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.gltf.Meshes;
import dev.kavrin.core.content.json.JsonReader;
import dev.kavrin.core.content.mesh.MeshData;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;
import org.junit.jupiter.api.Test;

/**
 * Saves that took something away, by accident and on purpose, made up by script and written as real
 * files. What practitioners do on purpose (splitting, joining, lightening) is common practice, no
 * source.
 */
class SuddenLossTest {
  private static final int SAVES = 200;
  private final Random random = new Random(20310303);

  private record Save(String what, boolean harmful, List<SuddenLoss.Loss> found) {}

  @Test
  void lossesAreToldFromWorkDoneOnPurpose() throws IOException {
    List<Save> saves = new ArrayList<>();
    while (saves.size() < SAVES) {
      saves.add(
          switch (random.nextInt(10)) {
            case 0, 1 -> drawing(saves.size());
            case 2 -> numbers(saves.size());
            default -> model(saves.size());
          });
    }
    saves.stream()
        .filter(s -> !s.harmful() && !s.found().isEmpty())
        .forEach(s -> System.out.println("wrongly asked: " + s));
    Map<String, int[]> table = new TreeMap<>();
    for (Save save : saves) {
      table.computeIfAbsent(save.what(), k -> new int[2])[save.found().isEmpty() ? 0 : 1]++;
    }
    long asked = saves.stream().filter(s -> !s.found().isEmpty()).count();
    long right = saves.stream().filter(s -> s.harmful() && !s.found().isEmpty()).count();
    long harmful = saves.stream().filter(Save::harmful).count();
    System.out.printf(
        "sudden loss at %s: %d saves, %d harmful, precision %.3f, recall %.3f%n",
        LossLimits.DEFAULT, SAVES, harmful, (double) right / asked, (double) right / harmful);
    table.forEach(
        (what, n) -> System.out.printf("  %-34s quiet %3d asked %3d%n", what, n[0], n[1]));
    assertThat((double) right / asked).isGreaterThanOrEqualTo(0.95);
    assertThat((double) right / harmful).isGreaterThanOrEqualTo(0.95);
    assertThat(harmful).isBetween(SAVES * 2L / 5, SAVES * 3L / 5);
  }

  private static List<SuddenLoss.Loss> between(Reading a, Reading b) {
    List<String> known = a.findings().stream().map(Finding::code).toList();
    return SuddenLoss.of(
        a.inventory(),
        b.inventory(),
        b.findings().stream().filter(f -> !known.contains(f.code())).toList(),
        LossLimits.DEFAULT);
  }

  // --- models

  private record Piece(String name, MeshData mesh, String picture) {}

  private static MeshData at(MeshData mesh, double... by) {
    float[] points = mesh.points().clone();
    for (int i = 0; i < points.length; i++) {
      points[i] += (float) by[i % 3];
    }
    return new MeshData(points, mesh.corners());
  }

  private List<Piece> scene() {
    List<Piece> pieces = new ArrayList<>();
    int n = 8 + random.nextInt(30);
    for (int i = 0; i < n; i++) {
      double size = 0.3 + random.nextDouble();
      MeshData body = random.nextBoolean() ? Meshes.cube((float) size) : Meshes.sphere(size, 8);
      pieces.add(
          new Piece(
              "Piece " + i,
              at(body, 4 * (i % 6), 4 * (i / 6), 0),
              i < 4 ? "tex-" + i + ".png" : null));
    }
    return pieces;
  }

  private Save model(int number) throws IOException {
    List<Piece> before = scene();
    List<Piece> after = new ArrayList<>(before);
    java.util.Collections.shuffle(after, random);
    int n = before.size();
    boolean harmful = number % 2 == 0;
    String what;
    if (harmful) {
      switch (random.nextInt(4)) {
        case 0 -> {
          what = "model: many parts deleted";
          after = after.subList(0, (int) (n * (0.1 + 0.6 * random.nextDouble())));
        }
        case 1 -> {
          what = "model: a part turned inside out";
          after.replaceAll(
              p ->
                  p.name().equals("Piece 5")
                      ? new Piece(p.name(), p.mesh().turnedRound(), null)
                      : p);
        }
        case 2 -> {
          what = "model: pictures lost";
          after.replaceAll(p -> new Piece(p.name(), p.mesh(), null));
        }
        default -> {
          what = "model: deleted while others were edited";
          after = new ArrayList<>(after.subList(0, n / 2));
          after.replaceAll(p -> new Piece(p.name(), at(p.mesh(), 0, 0, 0.2), p.picture()));
        }
      }
    } else {
      switch (random.nextInt(6)) {
        case 0 -> {
          what = "model: each part split in two";
          List<Piece> split = new ArrayList<>();
          for (Piece p : after) {
            split.addAll(halves(p));
          }
          after = split;
        }
        case 1 -> {
          what = "model: parts joined into one";
          after = new ArrayList<>(List.of(joined(after)));
        }
        case 2 -> {
          what = "model: lightened";
          after.replaceAll(p -> new Piece(p.name(), lighter(p.mesh()), p.picture()));
        }
        case 3 -> {
          what = "model: everything renamed and moved";
          after.replaceAll(p -> new Piece("New " + p.name(), at(p.mesh(), 100, 0, 0), p.picture()));
        }
        case 4 -> {
          what = "model: one part deleted";
          Piece smallest =
              after.stream()
                  .filter(p -> p.picture() == null)
                  .min(java.util.Comparator.comparingDouble(p -> p.mesh().box().diagonal()))
                  .orElseThrow();
          after.remove(smallest);
        }
        default -> {
          what = "model: worked on";
          after.replaceAll(
              p ->
                  random.nextInt(4) == 0
                      ? new Piece(p.name(), Meshes.torus(0.8, 0.2, 8), p.picture())
                      : p);
          after.add(new Piece("Another", at(Meshes.cube(1), 50, 50, 0), null));
        }
      }
    }
    return new Save(what, harmful, between(read(before), read(after)));
  }

  private static List<Piece> halves(Piece p) {
    float[] points = p.mesh().points();
    double middle = (p.mesh().box().min()[0] + p.mesh().box().max()[0]) / 2;
    List<Integer> left = new ArrayList<>();
    List<Integer> right = new ArrayList<>();
    int[] corners = p.mesh().corners();
    for (int t = 0; t < corners.length; t += 3) {
      float x = points[corners[t] * 3] + points[corners[t + 1] * 3] + points[corners[t + 2] * 3];
      List<Integer> side = x / 3 < middle ? left : right;
      for (int k = 0; k < 3; k++) {
        side.add(corners[t + k]);
      }
    }
    return List.of(
        new Piece(p.name() + " left", of(points, left), p.picture()),
        new Piece(p.name() + " right", of(points, right), p.picture()));
  }

  /** Only the points that are used. */
  private static MeshData of(float[] points, List<Integer> corners) {
    Map<Integer, Integer> used = new LinkedHashMap<>();
    int[] order =
        corners.stream().mapToInt(c -> used.computeIfAbsent(c, k -> used.size())).toArray();
    float[] kept = new float[used.size() * 3];
    used.forEach((from, to) -> System.arraycopy(points, from * 3, kept, to * 3, 3));
    return new MeshData(kept, order);
  }

  private static Piece joined(List<Piece> pieces) {
    List<Float> points = new ArrayList<>();
    List<Integer> corners = new ArrayList<>();
    for (Piece p : pieces) {
      int from = points.size() / 3;
      for (float f : p.mesh().points()) {
        points.add(f);
      }
      for (int c : p.mesh().corners()) {
        corners.add(from + c);
      }
    }
    float[] flat = new float[points.size()];
    for (int i = 0; i < flat.length; i++) {
      flat[i] = points.get(i);
    }
    return new Piece(
        "Joined",
        new MeshData(flat, corners.stream().mapToInt(Integer::intValue).toArray()),
        pieces.stream()
            .map(Piece::picture)
            .filter(java.util.Objects::nonNull)
            .collect(java.util.stream.Collectors.joining(";")));
  }

  /** About the same body with fewer faces. */
  private static MeshData lighter(MeshData mesh) {
    double reach = mesh.box().diagonal() / 2 / Math.sqrt(3);
    double[] centre = new double[3];
    for (int k = 0; k < 3; k++) {
      centre[k] = (mesh.box().min()[k] + mesh.box().max()[k]) / 2;
    }
    return mesh.corners().length / 3 <= 12 ? mesh : at(Meshes.sphere(reach, 5), centre);
  }

  private static Reading read(List<Piece> pieces) throws IOException {
    GlbWriter writer = new GlbWriter();
    List<String> pictures = new ArrayList<>();
    for (Piece p : pieces) {
      writer.mesh(p.name(), -1, p.mesh(), null, null, -1);
      for (String picture : p.picture() == null ? new String[0] : p.picture().split(";")) {
        if (!pictures.contains(picture)) {
          pictures.add(picture);
        }
      }
    }
    byte[] bytes = writer.bytes(Map.of());
    Reading reading =
        new GlbReader().read(new SeekableInMemoryByteChannel(bytes), SiblingFiles.NOTHING);
    return new Reading(
        new dev.kavrin.core.content.Inventory(
            "glb",
            reading.inventory().parts(),
            pictures.stream().map(u -> new dev.kavrin.core.content.Link(u, "picture")).toList(),
            null,
            null,
            reading.inventory().precision()),
        reading.findings());
  }

  // --- drawings

  private Save drawing(int number) throws IOException {
    Map<String, Integer> layers = new LinkedHashMap<>();
    for (String name : List.of("Walls", "Track", "Levels", "Dimensions", "Doors")) {
      layers.put(name, 20 + random.nextInt(100));
    }
    Map<String, Integer> after = new LinkedHashMap<>(layers);
    boolean harmful = number % 2 == 0;
    String what;
    if (harmful) {
      what = random.nextBoolean() ? "drawing: a layer emptied" : "drawing: a layer deleted";
      after.remove("Doors");
    } else if (random.nextBoolean()) {
      what = "drawing: all moved to another layer";
      after.put("Walls", layers.get("Walls") + layers.get("Doors"));
      after.remove("Doors");
    } else {
      what = "drawing: worked on";
      after.replaceAll((k, n) -> n + random.nextInt(9) - 4);
    }
    boolean named = what.contains("emptied");
    return new Save(
        what,
        harmful,
        between(read(layers, List.of()), read(after, named ? List.of("Doors") : List.of())));
  }

  private static Reading read(Map<String, Integer> layers, List<String> empty) throws IOException {
    StringBuilder text = new StringBuilder("0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n");
    layers.keySet().forEach(name -> text.append("0\nLAYER\n2\n").append(name).append("\n70\n0\n"));
    empty.forEach(name -> text.append("0\nLAYER\n2\n").append(name).append("\n70\n0\n"));
    text.append("0\nENDTAB\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n");
    layers.forEach(
        (name, n) -> {
          for (int i = 0; i < n; i++) {
            text.append(
                "0\nLINE\n8\n%s\n10\n%d\n20\n%d\n11\n%d\n21\n%d\n"
                    .formatted(name, i, name.hashCode() % 100, i + 1, i % 7));
          }
        });
    text.append("0\nENDSEC\n0\nEOF\n");
    return new DxfReader()
        .read(
            new SeekableInMemoryByteChannel(text.toString().getBytes(StandardCharsets.UTF_8)),
            SiblingFiles.NOTHING);
  }

  // --- settings

  private Save numbers(int number) throws IOException {
    Map<String, Double> before = new TreeMap<>();
    for (int i = 0; i < 20; i++) {
      before.put("value " + (char) ('a' + i), random.nextDouble());
    }
    Map<String, Double> after = new TreeMap<>(before);
    boolean harmful = number % 2 == 0;
    if (harmful) {
      after.keySet().removeIf(k -> k.compareTo("value k") > 0);
    } else {
      after.replaceAll((k, v) -> random.nextBoolean() ? v : random.nextDouble());
    }
    return new Save(
        harmful ? "settings: half of them gone" : "settings: other values",
        harmful,
        between(json(before), json(after)));
  }

  private static Reading json(Map<String, Double> values) throws IOException {
    StringBuilder text = new StringBuilder("{");
    values.forEach(
        (k, v) -> text.append(text.length() > 1 ? "," : "").append("\"%s\":%s".formatted(k, v)));
    return new JsonReader()
        .read(
            new SeekableInMemoryByteChannel((text + "}").getBytes(StandardCharsets.UTF_8)),
            SiblingFiles.NOTHING);
  }
}
