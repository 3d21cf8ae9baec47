package dev.kavrin.core.version;

import dev.kavrin.core.chunk.Sketch;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Words;
import jakarta.annotation.Nullable;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Says to which document a file belongs: by its program, its name, its place, its content. */
public final class DocumentMatcher {
  static final double CLEARLY = 0.3;
  private static final double PARTS = 0.5;
  private static final int FEWEST_PARTS = 3;

  private final Disk disk;
  private final List<Subject> subjects;
  private final List<Path> lives;

  public DocumentMatcher(Disk disk, List<Subject> subjects) {
    this.disk = disk;
    this.subjects = List.copyOf(subjects);
    this.lives = subjects.stream().map(Subject::live).toList();
  }

  /**
   * A document that files may belong to.
   *
   * @param id of the document
   * @param rule of its project: names of documents
   * @param sketches of its states as far as they are known
   * @param parts fingerprints of what was ever inside it
   */
  public record Subject(
      String id,
      Path live,
      Path project,
      List<String> rule,
      ProgramProfile sheet,
      List<Sketch> sketches,
      Set<String> parts) {
    private Subject knowing(Stranger file) {
      List<Sketch> more = new ArrayList<>(sketches);
      more.add(file.sketch());
      Set<String> all = new HashSet<>(parts);
      all.addAll(file.parts());
      return new Subject(id, live, project, rule, sheet, more, all);
    }

    FileName name() {
      return FileName.of(live.getFileName().toString());
    }

    /** Where it is in its project's folder, with the folder's own name. */
    Path place() {
      return project.getParent().relativize(live);
    }

    boolean isDocument(String fileName) {
      return rule.stream()
          .anyMatch(
              r -> FileSystems.getDefault().getPathMatcher("glob:" + r).matches(Path.of(fileName)));
    }

    /** True if its name, or that of a folder of the project it lies in, begins with a dot. */
    boolean isHidden(Path file) {
      Path seen = file.startsWith(project) ? project.relativize(file) : file.getFileName();
      for (Path name : seen) {
        if (name.toString().startsWith(".")) {
          return true;
        }
      }
      return false;
    }

    double shared(Stranger file) {
      double most = 0;
      for (Sketch sketch : sketches) {
        most = Math.max(most, sketch.shared(file.sketch()));
      }
      return most;
    }

    double sharedParts(Stranger file) {
      if (file.parts().size() < FEWEST_PARTS) {
        return 0;
      }
      Set<String> common = new HashSet<>(file.parts());
      common.retainAll(parts);
      return (double) common.size() / file.parts().size();
    }
  }

  /**
   * A file that may belong to a document.
   *
   * @param parts fingerprints of what is inside, empty if that cannot be read
   */
  public record Stranger(Path path, Sketch sketch, Set<String> parts) {}

  /** On what a tie rests, surest first. */
  public enum By {
    SHEET,
    NAME,
    CONTENT
  }

  /**
   * A file with the document it belongs to.
   *
   * @param share of the bytes or parts that are known from the document, 0 to 1
   * @param pattern by which its name was read, null for a stray
   * @param fields what the name tells
   * @param words why
   * @param sure false if a person is to say whether it is so
   */
  public record Tie(
      String document,
      CopyKind kind,
      By by,
      double share,
      @Nullable NamePattern pattern,
      NameFields fields,
      String words,
      boolean sure) {}

  /**
   * DocumentMatcher as many as can be tied: what is tied makes its document better known, so that
   * more may follow.
   */
  public static Map<Path, Tie> all(Disk disk, List<Subject> subjects, List<Stranger> files) {
    Map<String, Subject> known = new LinkedHashMap<>();
    subjects.forEach(s -> known.put(s.id(), s));
    Map<Path, Tie> tied = new LinkedHashMap<>();
    List<Stranger> left = files;
    boolean more = true;
    while (more) {
      DocumentMatcher ties = new DocumentMatcher(disk, List.copyOf(known.values()));
      List<Stranger> rest = new ArrayList<>();
      for (Stranger file : left) {
        Tie tie = ties.of(file).orElse(null);
        if (tie == null) {
          rest.add(file);
        } else {
          tied.put(file.path(), tie);
          known.computeIfPresent(tie.document(), (id, s) -> s.knowing(file));
        }
      }
      more = rest.size() < left.size();
      left = rest;
    }
    return tied;
  }

  /** Empty for files that belong to none, and for documents themselves. */
  public Optional<Tie> of(Stranger file) {
    String name = file.path().getFileName().toString();
    if (subjects.stream().anyMatch(s -> s.live().equals(file.path()))) {
      return Optional.empty();
    }
    List<Tie> ties = new ArrayList<>();
    for (Subject subject : subjects) {
      bySheet(subject, file, name)
          .or(() -> NameTies.byName(subject, file, name))
          .or(() -> NameTies.byPlace(subject, file, name))
          .ifPresent(ties::add);
    }
    if (ties.isEmpty() && !isItselfADocument(file.path(), name)) {
      subjects.forEach(s -> byContent(s, file).ifPresent(ties::add));
    }
    return ties.stream()
        .max(
            Comparator.comparing((Tie t) -> t.by() == By.SHEET ? 1 : 0)
                .thenComparingDouble(Tie::share)
                .thenComparing(t -> t.by() == By.NAME ? 1 : 0)
                .thenComparing(Tie::document));
  }

  private Optional<Tie> bySheet(Subject subject, Stranger file, String name) {
    String document = subject.live().getFileName().toString();
    return subject.sheet().leftovers().stream()
        .filter(l -> l.isOf(name, subject.live(), lives))
        .filter(l -> l.folders(disk, subject.live()).contains(file.path().getParent()))
        .findFirst()
        .map(
            l ->
                new Tie(
                    subject.id(),
                    l.kind(),
                    By.SHEET,
                    subject.shared(file),
                    l.pattern(),
                    l.read(name, document).orElseThrow(),
                    "named as its program does",
                    true));
  }

  private boolean isItselfADocument(Path file, String name) {
    return subjects.stream()
        .anyMatch(s -> file.startsWith(s.project()) && !s.isHidden(file) && s.isDocument(name));
  }

  private Optional<Tie> byContent(Subject subject, Stranger file) {
    double bytes = subject.shared(file);
    double parts = subject.sharedParts(file);
    if (bytes < CLEARLY && parts < PARTS) {
      return Optional.empty();
    }
    double share = Math.max(bytes, parts);
    return Optional.of(
        new Tie(
            subject.id(),
            CopyKind.STRAY,
            By.CONTENT,
            share,
            null,
            NameFields.of("", ""),
            parts > bytes
                ? Words.percent(parts) + " of its parts are known from there"
                : Words.percent(bytes) + " of its bytes are known from there",
            false));
  }
}
