package dev.kavrin.core.version;

import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;

/**
 * A made-up disk whose truth is known: five projects, four formats and a kind nobody can read, each
 * with habits of naming of its own, with strays, copies whose times were reset, damage and decoys.
 */
final class TestWorld {
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss");
  private static final String[] FORMATS = {"dxf", "ply", "json", "obj", "brk"};
  private static final Instant BEGIN = Instant.parse("2031-03-03T08:00:00Z");
  private static final Instant COPIED = Instant.parse("2031-06-01T09:03:00Z");

  /**
   * What a file truly is.
   *
   * @param document null for what belongs to none
   * @param state index of the work in it, −1 if none
   */
  record Truth(String document, int state, boolean damaged) {}

  /** A document with all its states, oldest first. */
  record Doc(String id, int project, String stem, String ext, Path live, List<byte[]> states) {
    Instant saved(int state) {
      return BEGIN.plusSeconds(state * 1_260L + project * 37L);
    }
  }

  final Path root;
  final List<Doc> documents = new ArrayList<>();
  final Map<Path, Truth> truth = new TreeMap<>();
  private final Random random;

  TestWorld(Path root, long seed) throws IOException {
    this.root = root;
    this.random = new Random(seed);
    String[] names = {"carriage", "track plan", "brake-disc", "summit station", "winding-house"};
    for (int project = 0; project < FORMATS.length; project++) {
      for (int d = 0; d < 4; d++) {
        document(project, names[d] + (d == 3 ? "-" + project : ""));
      }
    }
    documents.forEach(this::copies);
    for (int i = 0; i < 60; i++) {
      decoy(i);
    }
  }

  Path folder(int project) {
    return root.resolve("projects/p" + project);
  }

  private void document(int project, String stem) throws IOException {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < 14 + random.nextInt(8); i++) {
      parts.add(body());
    }
    List<byte[]> states = new ArrayList<>();
    for (int s = 0; s < 9; s++) {
      parts.set(random.nextInt(parts.size()), body());
      if (random.nextBoolean()) {
        parts.add(body());
      }
      states.add(written(FORMATS[project], parts, s));
    }
    Path live = folder(project).resolve("work/" + stem + "." + FORMATS[project]);
    Doc doc = new Doc(project + "/" + stem, project, stem, FORMATS[project], live, states);
    documents.add(doc);
    put(live, states.get(8), doc.saved(8), new Truth(doc.id(), 8, false));
  }

  private String body() {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < 120; i++) {
      text.append(random.nextInt(1_000_000)).append(i % 6 == 5 ? '\n' : ' ');
    }
    return text.toString();
  }

  private static byte[] written(String format, List<String> parts, int state) {
    StringBuilder text = new StringBuilder();
    switch (format) {
      case "dxf" -> {
        text.append("0\nSECTION\n2\nENTITIES\n");
        for (int i = 0; i < parts.size(); i++) {
          text.append("0\nTEXT\n8\nlayer ").append(i).append("\n1\n");
          text.append(parts.get(i).replace('\n', ' ')).append('\n');
        }
        text.append("0\nENDSEC\n0\nEOF\n");
      }
      case "ply" -> {
        int count = parts.size() * 40;
        text.append("ply\nformat ascii 1.0\nelement vertex ").append(count);
        text.append("\nproperty float x\nproperty float y\nproperty float z\nend_header\n");
        parts.forEach(p -> text.append(p).append('\n'));
      }
      case "json" -> {
        text.append("{\"step\": ").append(state * 10);
        for (int i = 0; i < parts.size(); i++) {
          String numbers = String.join(",", parts.get(i).strip().split("\\s+"));
          text.append(",\n\"part ").append(i).append("\": [").append(numbers).append(']');
        }
        text.append("}\n");
      }
      case "obj" -> {
        parts.forEach(
            p -> {
              String[] n = p.strip().split("\\s+");
              for (int i = 0; i + 2 < n.length; i += 3) {
                text.append("v ").append(n[i]).append(' ').append(n[i + 1]);
                text.append(' ').append(n[i + 2]).append('\n');
              }
            });
        for (int i = 1; i + 2 <= parts.size() * 40; i += 3) {
          text.append("f ").append(i).append(' ').append(i + 1).append(' ').append(i + 2);
          text.append('\n');
        }
      }
      default -> {
        ByteBuffer bytes = ByteBuffer.allocate(parts.size() * 480 + 4);
        bytes.put("TRN1".getBytes(StandardCharsets.US_ASCII));
        parts.forEach(
            p ->
                Arrays.stream(p.strip().split("\\s+"))
                    .forEach(n -> bytes.putInt(Integer.parseInt(n))));
        return bytes.array();
      }
    }
    return text.toString().getBytes(StandardCharsets.UTF_8);
  }

  private void put(Path file, byte[] bytes, Instant at, Truth what) throws IOException {
    Files.createDirectories(file.getParent());
    Files.write(file, bytes);
    Files.setLastModifiedTime(file, FileTime.from(at));
    truth.put(file, what);
  }

  private void copies(Doc doc) {
    try {
      switch (doc.project()) {
        case 0 -> {
          ring(doc);
          put(
              doc.live().resolveSibling(doc.stem() + ".bak"),
              doc.states().get(7),
              doc.saved(7),
              truth(doc, 7));
        }
        case 1 -> numbered(doc);
        case 2 -> steps(doc);
        case 3 -> marked(doc);
        default -> rising(doc);
      }
      timed(doc);
      copiedInOneGo(doc);
      strays(doc);
      damage(doc);
    } catch (IOException failed) {
      throw new java.io.UncheckedIOException(failed);
    }
  }

  private static Truth truth(Doc doc, int state) {
    return new Truth(doc.id(), state, false);
  }

  /** Slots 1 to 4, the newest in slot 2: …, 3, 4, 1, 2. */
  private void ring(Doc doc) throws IOException {
    int[] slots = {3, 4, 1, 2};
    for (int i = 0; i < 4; i++) {
      Path file = doc.live().resolveSibling(".drafts/" + doc.stem() + "~" + slots[i] + ".tmp");
      put(file, doc.states().get(2 + i), doc.saved(2 + i), truth(doc, 2 + i));
    }
  }

  private void numbered(Doc doc) throws IOException {
    for (int s = 0; s < 6; s++) {
      Path file =
          doc.live()
              .resolveSibling(
                  "versions/" + doc.stem() + "_" + String.format("%03d", s + 4) + "." + doc.ext());
      put(file, doc.states().get(s), s == 3 ? COPIED : doc.saved(s), truth(doc, s));
    }
  }

  private void steps(Doc doc) throws IOException {
    for (int s = 1; s < 6; s++) {
      Path file =
          doc.live().resolveSibling("restart/" + doc.stem() + "-" + s * 10 + "." + doc.ext());
      put(file, doc.states().get(s), s == 4 ? COPIED : doc.saved(s), truth(doc, s));
    }
  }

  private void marked(Doc doc) throws IOException {
    String name = doc.live().getFileName().toString();
    String[] names = {"#" + name + "#", name + "~", ".~" + name, name + ".old"};
    for (int i = 0; i < names.length; i++) {
      put(
          doc.live().resolveSibling(names[i]),
          doc.states().get(3 + i),
          doc.saved(3 + i),
          truth(doc, 3 + i));
    }
  }

  private void rising(Doc doc) throws IOException {
    for (int s = 0; s < 5; s++) {
      Path file = doc.live().resolveSibling("kept/" + doc.live().getFileName() + "." + (s + 17));
      put(file, doc.states().get(s), COPIED.plusSeconds(s), truth(doc, s));
    }
  }

  /** Times in names; the file system says otherwise for one of them. */
  private void timed(Doc doc) throws IOException {
    for (int s = 5; s < 8; s++) {
      String time = TIME.format(LocalDateTime.ofInstant(doc.saved(s), ZoneOffset.UTC));
      Path file = doc.live().resolveSibling("safety/" + doc.stem() + "." + time + "." + doc.ext());
      put(file, doc.states().get(s), s == 6 ? COPIED : doc.saved(s), truth(doc, s));
    }
  }

  private void copiedInOneGo(Doc doc) throws IOException {
    Path drive = root.resolve("old drive/" + doc.id().replace('/', '-'));
    for (int i = 0; i < 3; i++) {
      int s = random.nextInt(9);
      put(
          drive.resolve("copy of work " + i + ".dat"),
          doc.states().get(s),
          COPIED.plusSeconds(i),
          truth(doc, s));
    }
  }

  private void strays(Doc doc) throws IOException {
    for (int i = 0; i < 4; i++) {
      int s = random.nextInt(9);
      Path file =
          root.resolve(
              "desktop/"
                  + random.nextInt(12)
                  + "/saved "
                  + random.nextInt(100_000)
                  + "-"
                  + i
                  + ".bin");
      put(file, doc.states().get(s), doc.saved(s), truth(doc, s));
    }
  }

  private void damage(Doc doc) throws IOException {
    byte[] good = doc.states().get(5);
    Path folder = doc.live().resolveSibling("rescue");
    int at = good.length * 2 / 3;
    byte[] cut = Arrays.copyOf(good, good[at - 1] == '\n' ? at - 3 : at);
    put(
        folder.resolve(doc.live().getFileName() + ".bak"),
        cut,
        doc.saved(5),
        new Truth(doc.id(), -1, true));
    byte[] zeroed = good.clone();
    Arrays.fill(zeroed, good.length / 2, good.length, (byte) 0);
    put(
        folder.resolve("~" + doc.live().getFileName()),
        zeroed,
        doc.saved(5),
        new Truth(doc.id(), -1, true));
  }

  /** Names and places that lure, contents that have nothing to do with any document. */
  private void decoy(int i) throws IOException {
    Doc near = documents.get(random.nextInt(documents.size()));
    List<String> parts = new ArrayList<>();
    for (int p = 0; p < 15; p++) {
      parts.add(body());
    }
    byte[] other = written(near.ext(), parts, 3);
    String[] names = {
      near.stem() + "_2." + near.ext(),
      near.stem() + "-notes." + near.ext(),
      near.stem() + " by hand.dat",
      "copy " + i + ".dat",
      near.stem() + "." + i + ".txt"
    };
    Path file = near.live().resolveSibling(names[i % names.length]);
    if (!truth.containsKey(file)) {
      put(file, other, BEGIN.plusSeconds(i * 900L), new Truth(null, -1, false));
    }
  }

  /** The sheet of a project's program; only the first has one with leftovers. */
  ProgramProfile sheet(int project) {
    return project != 0
        ? ProgramProfile.UNKNOWN
        : new ProgramProfile(
            "maker",
            "",
            null,
            null,
            List.of(ProgramProfile.Leftover.of(CopyKind.AUTOSAVE, ".drafts", "{stem}~{n}.tmp")),
            null);
  }

  Map<String, Doc> byId() {
    Map<String, Doc> all = new LinkedHashMap<>();
    documents.forEach(d -> all.put(d.id(), d));
    return all;
  }
}
