package dev.kavrin.core.compare;

import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.gltf.Meshes;
import dev.kavrin.core.content.mesh.MeshData;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** A model of named pieces, and known ways of editing one of them. */
final class EditedModel {
  /** What is known to have become of a piece, by its name afterwards, or before if it is gone. */
  private final Map<String, Outcome> expected = new LinkedHashMap<>();

  private final Map<String, Piece> pieces = new LinkedHashMap<>();
  private final Random random;
  private int made;

  private record Piece(int group, MeshData mesh, double[] move, double[] colour) {
    Piece with(MeshData other) {
      return new Piece(group, other, move, colour);
    }
  }

  /** One known way. */
  interface Way {
    Outcome of(EditedModel model, String name, Piece piece);
  }

  static final Map<String, Way> WAYS = new LinkedHashMap<>();

  static {
    WAYS.put("removed", (m, n, p) -> m.put(n, null, Outcome.REMOVED));
    WAYS.put("renamed", EditedModel::rename);
    WAYS.put("under another group", (m, n, p) -> m.regroup(n, p));
    WAYS.put("placed elsewhere", (m, n, p) -> m.place(n, p));
    WAYS.put("all vertices moved", (m, n, p) -> m.put(n, p.with(moved(p, 0.5f)), Outcome.SHIFTED));
    WAYS.put("one vertex moved", (m, n, p) -> m.put(n, p.with(m.dented(p)), Outcome.CHANGED));
    WAYS.put("scaled", (m, n, p) -> m.put(n, p.with(scaled(p, 1, 1, 1.1f)), Outcome.CHANGED));
    WAYS.put("stretched", (m, n, p) -> m.put(n, p.with(scaled(p, 1, 1.4f, 1)), Outcome.CHANGED));
    WAYS.put("mirrored", (m, n, p) -> m.put(n, p.with(scaled(p, -1, 1, 1)), Outcome.CHANGED));
    WAYS.put(
        "turned inside out",
        (m, n, p) -> m.put(n, p.with(p.mesh().turnedRound()), Outcome.CHANGED));
    WAYS.put("holed", (m, n, p) -> m.put(n, p.with(holed(p.mesh())), Outcome.CHANGED));
    WAYS.put("refined", (m, n, p) -> m.put(n, p.with(refined(p.mesh())), Outcome.CHANGED));
    WAYS.put(
        "another surface",
        (m, n, p) ->
            m.put(
                n,
                new Piece(p.group(), p.mesh(), p.move(), new double[] {0.9, 0.1, 0.3}),
                Outcome.CHANGED));
    WAYS.put("another body", (m, n, p) -> m.put(n, p.with(m.body()), Outcome.CHANGED));
    WAYS.put("vertices reordered", (m, n, p) -> m.put(n, p.with(m.shuffled(p)), Outcome.SAME));
    WAYS.put("vertices split", (m, n, p) -> m.put(n, p.with(split(p.mesh())), Outcome.SAME));
    WAYS.put("a copy beside it", (m, n, p) -> m.another(p));
    WAYS.put("another piece", (m, n, p) -> m.another(m.piece()));
  }

  EditedModel(long seed) {
    random = new Random(seed);
    for (int i = 0; i < 14; i++) {
      pieces.put("Piece " + made++, piece());
    }
  }

  private EditedModel(EditedModel from) {
    random = from.random;
    made = from.made;
    pieces.putAll(from.pieces);
  }

  private Piece piece() {
    double[] move = {random.nextInt(40), random.nextInt(40), random.nextInt(40)};
    return new Piece(random.nextInt(3), body(), move, new double[] {0.4, 0.5, 0.6});
  }

  private MeshData body() {
    double size = 0.5 + random.nextDouble() * 2;
    int n = 6 + random.nextInt(12);
    return random.nextBoolean()
        ? Meshes.sphere(size, n)
        : Meshes.torus(2 * size, size * (0.3 + random.nextDouble() / 2), n);
  }

  /** The same model after so many edits, each of another piece. */
  EditedModel edited(List<String> ways) {
    EditedModel after = new EditedModel(this);
    List<String> names = new java.util.ArrayList<>(pieces.keySet());
    java.util.Collections.shuffle(names, random);
    for (int i = 0; i < ways.size(); i++) {
      WAYS.get(ways.get(i)).of(after, names.get(i), pieces.get(names.get(i)));
    }
    return after;
  }

  Map<String, Outcome> expected() {
    Map<String, Outcome> differing = new LinkedHashMap<>(expected);
    differing.values().removeIf(o -> o == Outcome.SAME);
    return differing;
  }

  private Outcome put(String name, Piece piece, Outcome outcome) {
    if (piece == null) {
      pieces.remove(name);
    } else {
      pieces.put(name, piece);
    }
    expected.put(name, outcome);
    return outcome;
  }

  private static Outcome rename(EditedModel model, String name, Piece piece) {
    model.pieces.remove(name);
    return model.put("Other " + name, piece, Outcome.RENAMED);
  }

  private Outcome another(Piece piece) {
    Piece elsewhere =
        new Piece(piece.group(), piece.mesh(), new double[] {-9, made, 7}, piece.colour());
    return put("Piece " + made++, elsewhere, Outcome.ADDED);
  }

  private Outcome regroup(String name, Piece p) {
    return put(
        name, new Piece((p.group() + 1) % 3, p.mesh(), p.move(), p.colour()), Outcome.REPARENTED);
  }

  private Outcome place(String name, Piece p) {
    double[] move = p.move().clone();
    move[2] += 0.0125;
    return put(name, new Piece(p.group(), p.mesh(), move, p.colour()), Outcome.SHIFTED);
  }

  private static MeshData moved(Piece p, float by) {
    float[] points = p.mesh().points().clone();
    for (int i = 1; i < points.length; i += 3) {
      points[i] += by;
    }
    return new MeshData(points, p.mesh().corners());
  }

  private MeshData dented(Piece p) {
    float[] points = p.mesh().points().clone();
    points[random.nextInt(points.length)] += 0.01f;
    return new MeshData(points, p.mesh().corners());
  }

  private static MeshData scaled(Piece p, float x, float y, float z) {
    float[] by = {x, y, z};
    float[] points = p.mesh().points().clone();
    for (int i = 0; i < points.length; i++) {
      points[i] *= by[i % 3];
    }
    return new MeshData(points, p.mesh().corners());
  }

  private static MeshData holed(MeshData mesh) {
    int[] corners = mesh.corners();
    return new MeshData(mesh.points(), Arrays.copyOf(corners, corners.length - 12));
  }

  /** Each triangle in three round its middle. */
  private static MeshData refined(MeshData mesh) {
    int triangles = mesh.triangles();
    float[] points = Arrays.copyOf(mesh.points(), mesh.points().length + triangles * 3);
    int[] corners = new int[triangles * 9];
    for (int t = 0; t < triangles; t++) {
      int middle = mesh.vertices() + t;
      for (int k = 0; k < 3; k++) {
        int corner = mesh.corners()[t * 3 + k];
        for (int axis = 0; axis < 3; axis++) {
          points[middle * 3 + axis] += mesh.points()[corner * 3 + axis] / 3;
        }
        corners[t * 9 + k * 3] = corner;
        corners[t * 9 + k * 3 + 1] = mesh.corners()[t * 3 + (k + 1) % 3];
        corners[t * 9 + k * 3 + 2] = middle;
      }
    }
    return new MeshData(points, corners);
  }

  private MeshData shuffled(Piece p) {
    int vertices = p.mesh().vertices();
    List<Integer> order = new java.util.ArrayList<>();
    for (int i = 0; i < vertices; i++) {
      order.add(i);
    }
    java.util.Collections.shuffle(order, random);
    float[] points = new float[vertices * 3];
    for (int v = 0; v < vertices; v++) {
      System.arraycopy(p.mesh().points(), v * 3, points, order.get(v) * 3, 3);
    }
    int[] corners = Arrays.stream(p.mesh().corners()).map(order::get).toArray();
    return new MeshData(points, corners);
  }

  /** Three vertices of its own for each triangle. */
  private static MeshData split(MeshData mesh) {
    float[] points = new float[mesh.corners().length * 3];
    int[] corners = new int[mesh.corners().length];
    for (int i = 0; i < corners.length; i++) {
      System.arraycopy(mesh.points(), mesh.corners()[i] * 3, points, i * 3, 3);
      corners[i] = i;
    }
    return new MeshData(points, corners);
  }

  byte[] glb() {
    GlbWriter writer = new GlbWriter();
    int[] groups = new int[3];
    for (int g = 0; g < groups.length; g++) {
      groups[g] = writer.group("Group " + g, -1);
    }
    pieces.forEach(
        (name, p) -> {
          int material = writer.material("m", p.colour()[0], p.colour()[1], p.colour()[2]);
          writer.mesh(name, groups[p.group()], p.mesh(), p.move(), null, material);
        });
    return writer.bytes(Map.of());
  }
}
