package dev.kavrin.core.content.mesh;

import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.LineBytes;
import dev.kavrin.core.content.PartWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Objects and groups of OBJ files. Their points are put behind those that are there; the faces of
 * what is replaced go, its points stay, for others may use them.
 */
public final class ObjParts implements PartWriter {
  private static final List<String> POINTS = List.of("v", "vt", "vn");
  private static final Set<String> DRAWN = Set.of("f", "l", "p");

  @Override
  public List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out)
      throws IOException {
    Set<String> replaced = new HashSet<>();
    wanted.forEach(w -> replaced.addAll(w.parts()));
    Kept kept = new Kept(replaced, out);
    kept.through(base);
    List<Brought> brought = new ArrayList<>();
    for (Wanted some : wanted) {
      for (Taken part : taken(some)) {
        part.write(kept, out);
        brought.add(part.brought(replaced, kept));
      }
    }
    return brought;
  }

  /** Goes through a file line by line and knows which part it is in. */
  private abstract static class Walk {
    private String object = "";
    String part = MeshBuilder.id("");
    String label = "";
    String material = "";
    final long[] points = new long[POINTS.size()];
    final List<String> libraries = new ArrayList<>();

    void through(Opened file) throws IOException {
      LineBytes line = new LineBytes(Bytes.from(file.in(), 0));
      while (line.next()) {
        int from = line.word(0);
        String word = from < line.length() ? line.text(from, line.space(from)) : "";
        String rest = from < line.length() ? line.text(line.space(from), line.length()) : "";
        switch (word) {
          case "o" -> {
            object = rest;
            begin(rest);
          }
          case "g" -> begin(object.isEmpty() ? rest : object + " · " + rest);
          case "usemtl" -> material = rest;
          case "mtllib" -> libraries.add(rest);
          default -> {
            int kind = POINTS.indexOf(word);
            if (kind >= 0) {
              points[kind]++;
            }
          }
        }
        line(word, rest, line);
      }
    }

    private void begin(String called) {
      label = called;
      part = MeshBuilder.id(called);
    }

    abstract void line(String word, String rest, LineBytes line) throws IOException;
  }

  /** Writes a file without the faces of some parts. */
  private static final class Kept extends Walk {
    private final Set<String> without;
    private final OutputStream out;
    private final Set<String> found = new HashSet<>();

    Kept(Set<String> without, OutputStream out) {
      this.without = without;
      this.out = out;
    }

    @Override
    void line(String word, String rest, LineBytes line) throws IOException {
      if (DRAWN.contains(word) && without.contains(part)) {
        found.add(part);
        return;
      }
      out.write(line.bytes(), 0, line.length());
      out.write('\n');
    }
  }

  /** A face of a part: its material, and its corners with numbers of points from 0, −1 for none. */
  private record Face(String word, String material, long[][] corners) {}

  /** A part with all it needs. */
  private static final class Taken {
    private final String id;
    private final String label;
    private final List<Face> faces = new ArrayList<>();
    private final Set<String> materials = new LinkedHashSet<>();
    private final List<Map<Long, String>> used =
        List.of(new LinkedHashMap<>(), new LinkedHashMap<>(), new LinkedHashMap<>());
    private List<String> libraries = List.of();

    Taken(String id, String label) {
      this.id = id;
      this.label = label;
    }

    void write(Kept kept, OutputStream out) throws IOException {
      StringBuilder text = new StringBuilder();
      for (String library : libraries) {
        if (!materials.isEmpty() && !kept.libraries.contains(library)) {
          text.append("mtllib ").append(library).append('\n');
        }
      }
      text.append("o ").append(label).append('\n');
      List<Map<Long, Long>> numbers = new ArrayList<>();
      for (int kind = 0; kind < POINTS.size(); kind++) {
        Map<Long, Long> now = new LinkedHashMap<>();
        for (Map.Entry<Long, String> point : used.get(kind).entrySet()) {
          text.append(POINTS.get(kind)).append(' ').append(point.getValue()).append('\n');
          now.put(point.getKey(), ++kept.points[kind]);
        }
        numbers.add(now);
      }
      String material = null;
      for (Face face : faces) {
        if (!face.material().equals(material) && !face.material().isEmpty()) {
          text.append("usemtl ").append(face.material()).append('\n');
        }
        material = face.material();
        text.append(face.word());
        for (long[] corner : face.corners()) {
          text.append(' ').append(numbers.get(0).get(corner[0]));
          if (corner[1] >= 0 || corner[2] >= 0) {
            text.append('/').append(corner[1] < 0 ? "" : numbers.get(1).get(corner[1]));
          }
          if (corner[2] >= 0) {
            text.append('/').append(numbers.get(2).get(corner[2]));
          }
        }
        text.append('\n');
      }
      out.write(text.toString().getBytes(StandardCharsets.UTF_8));
    }

    Brought brought(Set<String> replaced, Kept kept) {
      List<String> told = new ArrayList<>();
      for (String library : libraries) {
        if (!materials.isEmpty() && !kept.libraries.contains(library)) {
          told.add(
              "its materials are described in " + library + ", which must lie beside the file");
        }
      }
      return new Brought(
          id,
          id,
          replaced.contains(id) && kept.found.contains(id),
          materials.stream().map(m -> "material " + m).toList(),
          told);
    }
  }

  private static List<Taken> taken(Wanted some) throws IOException {
    Map<String, Taken> parts = new LinkedHashMap<>();
    some.parts().forEach(p -> parts.put(p, null));
    Walk faces =
        new Walk() {
          @Override
          void line(String word, String rest, LineBytes line) throws IOException {
            if (DRAWN.contains(word) && parts.containsKey(part)) {
              Taken into = parts.get(part);
              if (into == null) {
                into = new Taken(part, label.isBlank() ? part : label.strip());
                parts.put(part, into);
              }
              into.faces.add(new Face(word, material, corners(rest, points)));
              if (!material.isEmpty()) {
                into.materials.add(material);
              }
            }
          }
        };
    faces.through(some.from());
    List<List<Set<Long>>> needed = new ArrayList<>();
    for (Map.Entry<String, Taken> part : parts.entrySet()) {
      if (part.getValue() == null) {
        throw new CannotTake(part.getKey() + " has no face in that version.");
      }
      part.getValue().libraries = faces.libraries;
      List<Set<Long>> own = List.of(new HashSet<>(), new HashSet<>(), new HashSet<>());
      for (Face face : part.getValue().faces) {
        for (long[] corner : face.corners()) {
          for (int kind = 0; kind < corner.length; kind++) {
            own.get(kind).add(corner[kind]);
          }
        }
      }
      needed.add(own);
    }
    List<Taken> taken = List.copyOf(parts.values());
    new Walk() {
      @Override
      void line(String word, String rest, LineBytes line) {
        int kind = POINTS.indexOf(word);
        for (int i = 0; kind >= 0 && i < taken.size(); i++) {
          if (needed.get(i).get(kind).contains(points[kind] - 1)) {
            taken.get(i).used.get(kind).put(points[kind] - 1, rest);
          }
        }
      }
    }.through(some.from());
    for (int i = 0; i < taken.size(); i++) {
      for (int kind = 0; kind < POINTS.size(); kind++) {
        needed.get(i).get(kind).remove(-1L);
        if (!taken.get(i).used.get(kind).keySet().containsAll(needed.get(i).get(kind))) {
          throw new CannotTake(taken.get(i).id + " names points that are not in that version.");
        }
      }
    }
    return taken;
  }

  /** Numbers below zero count back from the newest point. */
  private static long[][] corners(String rest, long[] points) throws IOException {
    String[] words = rest.split("\\s+");
    long[][] corners = new long[words.length][];
    try {
      for (int i = 0; i < words.length; i++) {
        String[] numbers = words[i].split("/", -1);
        corners[i] = new long[POINTS.size()];
        Arrays.fill(corners[i], -1);
        for (int kind = 0; kind < Math.min(POINTS.size(), numbers.length); kind++) {
          long told = numbers[kind].isEmpty() ? 0 : Long.parseLong(numbers[kind]);
          corners[i][kind] = told < 0 ? points[kind] + told : told - 1;
        }
      }
    } catch (NumberFormatException noNumber) {
      throw new CannotTake("A face in that version cannot be read: " + rest);
    }
    return corners;
  }
}
