package dev.kavrin.core.profile;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;

/**
 * A program with habits of its own, invented: how it saves, what it keeps, where it autosaves, how
 * its process looks. Knows the truth about every file it writes.
 */
final class InventedProgram {
  enum Saving {
    IN_PLACE,
    STAGED,
    MOVED_ASIDE
  }

  enum Earlier {
    NONE,
    SAME_NAME,
    BEHIND,
    NUMBERED,
    TIMED
  }

  enum Autosave {
    NONE,
    HIDDEN_RING,
    WRAPPED,
    CACHE,
    FOLDER_OF_ITS_OWN,
    ONE_UP,
    NAMED_BY_CHANCE
  }

  enum Sign {
    NONE,
    HIDDEN,
    BEHIND
  }

  enum Start {
    NATIVE,
    JAVA,
    SCRIPT,
    WITHOUT_NAME
  }

  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd_HHmmss");

  final Saving saving;
  final Earlier earlier;
  final Autosave autosave;
  final Sign sign;
  final Start start;
  final Duration every;
  final boolean clears;
  private final String ext;
  private final int ring;
  private final Random random;
  private final Path home;
  final Map<Path, CopyKind> truth = new TreeMap<>();
  private Instant now;
  private int saves;
  private int autosaves;
  private boolean runs;

  InventedProgram(long seed, Path home, Instant now) {
    random = new Random(seed);
    this.home = home;
    this.now = now;
    saving = any(Saving.values());
    earlier = any(Earlier.values());
    autosave =
        random.nextInt(30) == 0
            ? Autosave.NAMED_BY_CHANCE
            : any(List.of(Autosave.values()).subList(0, 6).toArray(new Autosave[0]));
    sign = any(Sign.values());
    start = any(Start.values());
    ext = any(new String[] {"glb", "dxf", "trk", "scn3", "h5"});
    every = Duration.ofSeconds(any(new Integer[] {30, 60, 120, 300, 600}));
    ring = 2 + random.nextInt(4);
    clears = random.nextInt(3) == 0 && autosave != Autosave.CACHE;
  }

  private <T> T any(T[] choices) {
    return choices[random.nextInt(choices.length)];
  }

  Path document(Path work, String stem) {
    return work.resolve(stem + "." + ext);
  }

  void begin(Path document) throws IOException {
    runs = true;
    saves = 0;
    autosaves = 0;
    if (sign(document) != null) {
      put(sign(document), 12);
    }
  }

  Path sign(Path document) {
    String name = document.getFileName().toString();
    return switch (sign) {
      case NONE -> null;
      case HIDDEN -> document.resolveSibling("." + stem(document) + ".open");
      case BEHIND -> document.resolveSibling(name + ".lck");
    };
  }

  private static String stem(Path document) {
    return document.getFileName().toString().replaceFirst("\\.[^.]+$", "");
  }

  void save(Path document) throws IOException {
    saves++;
    Path kept = kept(document);
    if (kept != null && Files.exists(document)) {
      Files.createDirectories(kept.getParent());
      if (saving == Saving.MOVED_ASIDE) {
        Files.move(document, kept, StandardCopyOption.REPLACE_EXISTING);
      } else {
        Files.copy(document, kept, StandardCopyOption.REPLACE_EXISTING);
        Files.setLastModifiedTime(kept, FileTime.from(now));
      }
      truth.put(kept, CopyKind.KEPT_BY_SAVE);
    }
    if (saving == Saving.IN_PLACE) {
      put(document, size());
    } else {
      Path stage = document.resolveSibling(document.getFileName() + ".part");
      put(stage, size());
      Files.move(stage, document, StandardCopyOption.REPLACE_EXISTING);
    }
  }

  private int size() {
    return 60_000 + random.nextInt(5_000);
  }

  private Path kept(Path document) {
    String stem = stem(document);
    return switch (earlier) {
      case NONE -> null;
      case SAME_NAME -> document.resolveSibling(stem + ".bak");
      case BEHIND -> document.resolveSibling(document.getFileName() + "~");
      case NUMBERED ->
          document.resolveSibling("versions/" + String.format("%s_%03d.%s", stem, saves, ext));
      case TIMED ->
          document.resolveSibling(
              "earlier/" + stem + "." + TIME.format(now.atOffset(ZoneOffset.UTC)) + "." + ext);
    };
  }

  void autosave(Path document) throws IOException {
    if (autosave != Autosave.NONE) {
      autosaves++;
      Path copy = copy(document);
      Files.createDirectories(copy.getParent());
      put(copy, size());
      truth.put(copy, CopyKind.AUTOSAVE);
    }
  }

  private Path copy(Path document) {
    String stem = stem(document);
    int slot = 1 + (autosaves - 1) % ring;
    return switch (autosave) {
      case HIDDEN_RING -> document.resolveSibling(".drafts/" + stem + "~" + slot + ".tmp");
      case WRAPPED -> document.resolveSibling("#" + document.getFileName() + "#");
      case CACHE ->
          home.resolve(
              ".cache/maker/" + stem + "-" + TIME.format(now.atOffset(ZoneOffset.UTC)) + "." + ext);
      case FOLDER_OF_ITS_OWN -> document.resolveSibling(stem + ".auto/" + slot + ".dat");
      case ONE_UP -> document.getParent().resolveSibling("safety/" + stem + "." + slot + "." + ext);
      default ->
          home.resolve(".cache/maker/" + Integer.toHexString(stem.hashCode()) + slot + "x.tmp");
    };
  }

  void end(Path document) throws IOException {
    runs = false;
    if (sign(document) != null) {
      Files.delete(sign(document));
    }
    if (clears) {
      for (Map.Entry<Path, CopyKind> e : truth.entrySet()) {
        if (e.getValue() == CopyKind.AUTOSAVE) {
          Files.deleteIfExists(e.getKey());
        }
      }
    }
  }

  private void put(Path file, int size) throws IOException {
    byte[] bytes = new byte[size];
    random.nextBytes(bytes);
    Files.write(file, bytes);
    Files.setLastModifiedTime(file, FileTime.from(now));
  }

  void at(Instant moment) {
    now = moment;
  }

  /** What its command line looks like with a document open. */
  List<String> commandLine(Path document) {
    return switch (start) {
      case NATIVE -> List.of("/opt/maker/bin/makerbench", document.toString());
      case JAVA ->
          List.of(
              "/usr/bin/java", "-Xmx1g", "-cp", "/opt/x.jar", "maker.Bench", document.toString());
      case SCRIPT -> List.of("/usr/bin/python3", "/opt/maker/bench.py", document.toString());
      case WITHOUT_NAME -> List.of("/opt/maker/bin/makerbench", "--quiet");
    };
  }

  List<Running.Process> processes(Path document) {
    List<Running.Process> others =
        List.of(
            new Running.Process(1, List.of("/sbin/init"), Set.of()),
            new Running.Process(20, List.of("/usr/bin/java", "-jar", "/opt/other.jar"), Set.of()),
            new Running.Process(21, List.of("/usr/bin/python3", "/opt/tools/sync.py"), Set.of()));
    if (!runs) {
      return others;
    }
    List<Running.Process> all = new java.util.ArrayList<>(others);
    all.add(new Running.Process(300, commandLine(document), Set.of()));
    return all;
  }

  @Override
  public String toString() {
    return String.join(
        ", ",
        List.of(
            "saves " + saving,
            "keeps " + earlier,
            "autosaves " + autosave + (clears ? " cleared at the end" : ""),
            "sign " + sign,
            "started " + start,
            "every " + every.toSeconds() + " s, ." + ext));
  }
}
