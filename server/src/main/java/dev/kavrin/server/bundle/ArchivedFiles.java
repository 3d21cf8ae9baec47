package dev.kavrin.server.bundle;

import dev.kavrin.core.bundle.Secrets;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.platform.Walk;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionFiles.Place;
import dev.kavrin.server.version.VersionFiles.StateFile;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.Mark;
import dev.kavrin.server.version.VersionsView.StateView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.stereotype.Component;

/**
 * All that belongs to a project: what lies in its folder, earlier states that lie elsewhere, and
 * the files outside that documents lean on.
 */
@Component
class ArchivedFiles {
  static final String EARLIER = "earlier versions";
  private static final String OUTSIDE = "linked from outside";
  private static final DateTimeFormatter MOMENT =
      DateTimeFormatter.ofPattern("uuuu-MM-dd HH.mm.ss");

  private final ProjectService projects;
  private final VersionService trail;
  private final VersionFiles files;
  private final PathGuard guard;
  private final Disk disk;
  private final ZoneId zone;

  ArchivedFiles(
      ProjectService projects,
      VersionService trail,
      VersionFiles files,
      PathGuard guard,
      Disk disk,
      Settings settings) {
    this.projects = projects;
    this.trail = trail;
    this.files = files;
    this.guard = guard;
    this.disk = disk;
    this.zone = settings.zone();
  }

  /** Where a file comes from. */
  enum From {
    FOLDER,
    EARLIER,
    OUTSIDE
  }

  /**
   * A file that belongs to the project.
   *
   * @param original path it comes back under
   */
  record Archived(Path file, String original, long bytes, From from) {
    /** What it is called here. */
    String here() {
      return from == From.FOLDER ? original : file.toString();
    }

    /** Why it goes along only if a person says so; null if it does. */
    @Nullable
    String ask() {
      return from == From.OUTSIDE
          ? PackedFile.OUTSIDE
          : Secrets.isLikely(file.getFileName().toString()) ? PackedFile.SECRET : null;
    }
  }

  /**
   * All that was found.
   *
   * @param states a table of them, comma-separated, each with the file that holds it
   * @param unreadable folders that cannot be looked into
   * @param unreachable states no copy of which can be reached now, and linked files that may not be
   *     read, in words
   */
  record Found(
      Path folder,
      List<Archived> files,
      String states,
      List<String> unreadable,
      List<String> unreachable) {}

  Found of(UUID project) throws IOException {
    Gathering gathering = new Gathering(guard.folder(projects.byId(project).folder()));
    gathering.folder();
    for (Document document : projects.documents(project)) {
      gathering.states(document);
    }
    return gathering.found();
  }

  private final class Gathering {
    private final Path folder;
    private final Map<Path, FileFacts> inFolder = new TreeMap<>();
    private final Map<String, Archived> files = new LinkedHashMap<>();
    private final Map<Path, String> given = new HashMap<>();
    private final StringBuilder table = new StringBuilder();
    private final CSVPrinter rows = CSVFormat.RFC4180.print(table);
    private final List<String> unreadable = new ArrayList<>();
    private final List<String> unreachable = new ArrayList<>();

    Gathering(Path folder) throws IOException {
      this.folder = folder;
      rows.printRecord(
          "document", "state", "work until", "run", "step", "verdict", "marks", "file");
    }

    void folder() throws IOException {
      new Walk(disk, () -> false)
          .through(
              folder,
              new Walk.Visitor() {
                @Override
                public void folder(Path entered) {}

                @Override
                public void file(Path file, FileFacts facts) {
                  inFolder.put(file, facts);
                }

                @Override
                public void closed(Path closed) {
                  unreadable.add(relative(closed));
                }
              });
      inFolder.forEach(
          (file, facts) -> add(file, facts.size(), From.FOLDER, n -> relative(file) + n));
    }

    private String relative(Path file) {
      return RelativePath.of(folder, file);
    }

    void states(Document document) throws IOException {
      Map<String, List<StateFile>> all = ArchivedFiles.this.files.all(document.id());
      for (StateView state : trail.whole(document.id()).states()) {
        for (StateFile file : all.getOrDefault(state.id(), List.of())) {
          String original = stands(document, state, file).map(this::relative).orElse(null);
          if (original == null && !file.places().isEmpty()) {
            original = earlier(document, state, file);
          }
          if (original == null) {
            unreachable.add(file.path() + " of " + MOMENT.format(state.workTo().atZone(zone)));
          } else {
            row(document, state, original);
          }
        }
        for (String uri : state.names()) {
          document.named(uri).filter(f -> !f.startsWith(folder)).ifPresent(this::outside);
        }
      }
    }

    /** In the folder, still as it was when it was read or copied. */
    private Optional<Path> stands(Document document, StateView state, StateFile file) {
      Path own =
          state.step() == null
              ? document.live()
              : document.live().resolveSibling(file.path()).normalize();
      return Stream.concat(Stream.of(own), file.places().stream().map(Place::file))
          .filter(f -> isAnyOf(f, file.places()))
          .findFirst();
    }

    private boolean isAnyOf(Path file, List<Place> places) {
      FileFacts now = inFolder.get(file);
      return now != null
          && places.stream()
              .anyMatch(p -> now.size() == p.size() && now.modified().equals(p.modified()));
    }

    private String earlier(Document document, StateView state, StateFile file) {
      Place place = file.places().get(0);
      String above = EARLIER + "/" + document.path() + "/";
      return given.computeIfAbsent(
          place.file(),
          source ->
              add(
                  source,
                  place.size(),
                  From.EARLIER,
                  n ->
                      above
                          + (state.step() == null ? plain(state, file, n) : step(state, file, n))));
    }

    private String plain(StateView state, StateFile file, String n) {
      String ext = FileName.of(Path.of(file.path()).getFileName().toString()).ext();
      return new FileName(MOMENT.format(state.workTo().atZone(zone)) + n, ext).written();
    }

    private static String step(StateView state, StateFile file, String n) {
      return "run " + state.step().run() + ", step " + state.step().step() + n + "/" + file.path();
    }

    /** Adds it under the first of its names that is free. */
    private String add(Path file, long bytes, From from, UnaryOperator<String> name) {
      String original = name.apply("");
      for (int n = 2; files.containsKey(original); n++) {
        original = name.apply("-" + n);
      }
      files.put(original, new Archived(file, original, bytes, from));
      return original;
    }

    private void row(Document document, StateView state, String original) throws IOException {
      rows.printRecord(
          document.path(),
          state.id(),
          state.workTo(),
          state.step() == null ? null : state.step().run(),
          state.step() == null ? null : state.step().step(),
          state.verdict(),
          state.marks().stream().map(Mark::mark).collect(Collectors.joining(", ")),
          original);
    }

    private void outside(Path file) {
      if (given.containsKey(file)) {
        return;
      }
      try {
        if (!guard.allows(file)) {
          unreachable.add(file + ", which Kavrin may not read");
        } else {
          disk.facts(file).filter(FileFacts::isFile).ifPresent(facts -> outside(file, facts));
        }
      } catch (IOException unreadableNow) {
        unreachable.add(file + ", which cannot be read");
      }
    }

    private void outside(Path file, FileFacts facts) {
      Path above = file.getParent().getFileName();
      String folder = OUTSIDE + "/" + (above == null ? "" : above + "/");
      FileName parts = FileName.of(file.getFileName().toString());
      given.put(
          file,
          add(
              file,
              facts.size(),
              From.OUTSIDE,
              n -> folder + new FileName(parts.stem() + n, parts.ext()).written()));
    }

    Found found() {
      return new Found(
          folder,
          List.copyOf(files.values()),
          table.toString(),
          unreadable,
          unreachable.stream().distinct().toList());
    }
  }
}
