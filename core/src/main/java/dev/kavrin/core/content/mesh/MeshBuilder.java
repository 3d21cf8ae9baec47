package dev.kavrin.core.content.mesh;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.content.ContentReader.Reading;
import dev.kavrin.core.content.Decimal;
import dev.kavrin.core.content.LineBytes;
import dev.kavrin.core.content.Measure;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.content.Readings;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Collects points and faces while they go by. A file with more than can be held is only counted and
 * bounded; it is then one part.
 */
final class MeshBuilder {
  /** Files beyond that size hold more points than can be held, whatever they look like. */
  static final long MOST_BYTES = 700_000_000;

  /** More parts than anybody names by hand are counted, not told apart. */
  private static final int MOST_GROUPS = 20_000;

  private static final int MOST_POINTS = 4_000_000;
  private static final int MOST_CORNERS = 18_000_000;

  /** Of so many points, and of some of the rest, it is looked how fine their numbers are. */
  private static final int SURELY = 10_000;

  private static final int SOME = 64;
  private static final String NAMELESS = "surface";

  private final PointTally tally = new PointTally();
  private final Map<String, Group> groups = new LinkedHashMap<>();
  private final ContentHash hash = new ContentHash();
  private float[] points = new float[1 << 10];
  private int held;
  private int corners;
  private long faces;
  private boolean tooMuch;
  private int decimals = -1;
  private Group group;
  private String surface = "";

  /** Triangles of one part, by numbers of points of the whole file. */
  private static final class Group {
    private int[] corners = new int[48];
    private int count;
    private String surface = "";
    private String last = "";

    void made(String of) {
      if (!last.equals(of)) {
        surface = surface.isEmpty() ? of : surface + "|" + of;
        last = of;
      }
    }

    void add(int corner) {
      corners = count == corners.length ? Arrays.copyOf(corners, count * 2) : corners;
      corners[count++] = corner;
    }
  }

  /** What a part called so is called in an inventory. */
  static String id(String label) {
    return (label.isBlank() ? NAMELESS : label.strip()).replace('/', '∕');
  }

  /** What comes from now on belongs to that part. */
  void begin(String label) {
    if (tooMuch || groups.size() == MOST_GROUPS && !groups.containsKey(id(label))) {
      letGo();
      return;
    }
    group = groups.computeIfAbsent(id(label), k -> new Group());
  }

  /** The material of what comes from now on, in whatever part. */
  void surface(String name) {
    surface = name;
  }

  void point(double x, double y, double z) {
    tally.point(x, y, z);
    if (tooMuch) {
      return;
    }
    if (held == MOST_POINTS) {
      letGo();
      return;
    }
    points = held * 3 + 3 > points.length ? Arrays.copyOf(points, points.length * 2) : points;
    points[held * 3] = (float) x;
    points[held * 3 + 1] = (float) y;
    points[held * 3 + 2] = (float) z;
    held++;
  }

  /** The first three words from there on; false if one of them is no number. */
  boolean point(LineBytes line, int from) {
    double[] at = new double[3];
    int word = line.word(from);
    for (int k = 0; k < 3; k++) {
      int end = line.space(word);
      at[k] = Decimal.parse(line.bytes(), word, end);
      if (word == end || Double.isNaN(at[k]) && !isNoNumber(line, word, end)) {
        return false;
      }
      if (tally.points() < SURELY || tally.points() % SOME == 0) {
        decimals = Math.max(decimals, decimals(line.bytes(), word, end));
      }
      word = line.word(end);
    }
    point(at[0], at[1], at[2]);
    return true;
  }

  private static boolean isNoNumber(LineBytes line, int from, int to) {
    return line.text(from, to).equalsIgnoreCase("nan");
  }

  private static int decimals(byte[] number, int from, int to) {
    for (int i = from; i < to; i++) {
      if (number[i] == 'e' || number[i] == 'E') {
        return 9;
      }
      if (number[i] == '.') {
        return Math.max(0, to - i - 1);
      }
    }
    return 0;
  }

  /** False if one of the words is no number. */
  boolean point(String x, String y, String z) {
    try {
      point(Double.parseDouble(x), Double.parseDouble(y), Double.parseDouble(z));
    } catch (NumberFormatException noNumber) {
      return false;
    }
    decimals = Math.max(decimals, Math.max(decimals(x), Math.max(decimals(y), decimals(z))));
    return true;
  }

  /** Digits behind the point; for numbers with an exponent enough not to be the coarsest. */
  static int decimals(String number) {
    int dot = number.indexOf('.');
    boolean exponent = number.indexOf('e') >= 0 || number.indexOf('E') >= 0;
    return exponent ? 9 : dot < 0 ? 0 : number.length() - dot - 1;
  }

  /** Digits behind the point of numbers that were read elsewhere. */
  void decimals(int digits) {
    decimals = Math.max(decimals, digits);
  }

  /** A face of any number of corners, as a fan of triangles; numbers of points from 0. */
  void face(int[] face, int count) {
    faces += count - 2;
    if (tooMuch) {
      return;
    }
    if (corners + 3 * (count - 2) > MOST_CORNERS) {
      letGo();
      return;
    }
    if (group == null) {
      begin(NAMELESS);
    }
    group.made(surface);
    for (int i = 2; i < count; i++) {
      group.add(face[0]);
      group.add(face[i - 1]);
      group.add(face[i]);
      corners += 3;
    }
  }

  /** Three points of its own for each face, as formats without a list of points have it. */
  void facet() {
    face(new int[] {held - 3, held - 2, held - 1}, 3);
  }

  /** What a file that is too large to be held is told apart by: all that is read through this. */
  InputStream hashed(InputStream in) {
    return new FilterInputStream(in) {
      @Override
      public int read(byte[] block, int from, int most) throws IOException {
        int count = in.read(block, from, most);
        if (count > 0) {
          hash.add(block, from, count);
        }
        return count;
      }
    };
  }

  /** The same bit by bit. */
  void hash(byte[] bytes, int count) {
    hash.add(bytes, 0, count);
  }

  private void letGo() {
    tooMuch = true;
    points = new float[0];
    groups.clear();
    group = null;
  }

  long points() {
    return tally.points();
  }

  /** The meshes by part id, each with only the points it uses, in their order. */
  Map<String, MeshData> meshes() {
    Map<String, MeshData> meshes = new LinkedHashMap<>();
    if (tooMuch) {
      return meshes;
    }
    int[] local = new int[held];
    for (Map.Entry<String, Group> entry : groups.entrySet()) {
      Group part = entry.getValue();
      if (part.count > 0) {
        meshes.put(entry.getKey(), mesh(part, local));
      }
    }
    if (meshes.isEmpty() && held > 0) {
      meshes.put(NAMELESS, new MeshData(Arrays.copyOf(points, held * 3), new int[0]));
    }
    return meshes;
  }

  /** Takes time by the corners of the part, not by all points there are. */
  private MeshData mesh(Group part, int[] local) {
    int[] used = Arrays.stream(part.corners, 0, part.count).sorted().distinct().toArray();
    float[] own = new float[used.length * 3];
    for (int v = 0; v < used.length; v++) {
      local[used[v]] = v;
      System.arraycopy(points, used[v] * 3, own, v * 3, 3);
    }
    int[] renumbered = new int[part.count];
    for (int i = 0; i < part.count; i++) {
      renumbered[i] = local[part.corners[i]];
    }
    return new MeshData(own, renumbered);
  }

  /** The same for who asks by part. */
  Shapes shapes() {
    Map<String, MeshData> meshes = meshes();
    return new Shapes() {
      @Override
      public List<String> parts() {
        return List.copyOf(meshes.keySet());
      }

      @Override
      public MeshData shape(String part) {
        return meshes.get(part);
      }
    };
  }

  /** Its parts, and what there is to say of them. */
  Reading into(Readings readings) {
    tally.faults(readings);
    readings.precision(tally.precision(decimals));
    if (tooMuch) {
      return readings
          .part(
              new Part(
                  NAMELESS,
                  null,
                  NAMELESS,
                  "mesh",
                  counts(),
                  tally.box(),
                  hash.id().digest(),
                  null,
                  null,
                  true))
          .done();
    }
    MeshNotes notes = new MeshNotes();
    meshes()
        .forEach(
            (id, mesh) -> {
              Group from = groups.get(id);
              readings.part(
                  new Part(
                      id,
                      null,
                      id,
                      "mesh",
                      MeshMeasures.of(id, mesh, "", notes),
                      mesh.box(),
                      mesh.fingerprint(),
                      null,
                      from == null || from.surface.isEmpty()
                          ? null
                          : ContentHash.of(from.surface).digest(),
                      true));
            });
    notes.findings().forEach(readings::found);
    return readings.done();
  }

  private Map<String, Measure> counts() {
    Map<String, Measure> counts = new LinkedHashMap<>();
    counts.put("vertices", new Measure(tally.points(), ""));
    counts.put("faces", new Measure(faces, ""));
    return counts;
  }
}
