package dev.kavrin.core.incident;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.host.Instance;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * A file that a program works on and no project backs up.
 *
 * @param by the instance that works on it
 * @param passing true if it lies where things are cleared away without asking
 * @param proper folder of the project where most of its documents of that kind lie
 */
public record Unplanned(Path file, Instance by, boolean passing, Path proper) {
  /** Common practice, no source. */
  private static final Set<String> PASSING = Set.of("tmp", "temp", "shm", "downloads", "download");

  /**
   * Those of one project's program, by their names documents of the project.
   *
   * @param documents paths of the project's documents
   * @param known true for what is backed up or is a backup itself
   */
  public static List<Unplanned> of(
      Disk disk,
      ProjectRecord project,
      Collection<Instance> instances,
      Collection<Path> documents,
      Predicate<Path> known) {
    Path work = Path.of(project.folder());
    return instances.stream()
        .flatMap(
            i ->
                i.files()
                    .filter(f -> f.isAbsolute() && f.getFileName() != null)
                    .filter(f -> !f.startsWith(work) && isDocument(project, f))
                    .filter(f -> !known.test(f) && isFile(disk, f))
                    .map(f -> new Unplanned(f, i, isPassing(f), proper(work, f, documents))))
        .collect(Collectors.toMap(Unplanned::file, u -> u, (u, again) -> u, TreeMap::new))
        .values()
        .stream()
        .toList();
  }

  /** By its name, and not a copy that the program writes by itself. */
  private static boolean isDocument(ProjectRecord project, Path file) {
    String name = file.getFileName().toString();
    return project.takes(file)
        && project.program().leftovers().stream()
            .noneMatch(l -> l.pattern().parse(name).isPresent());
  }

  private static boolean isFile(Disk disk, Path file) {
    try {
      return disk.facts(file).filter(FileFacts::isFile).isPresent();
    } catch (IOException away) {
      return false;
    }
  }

  private static boolean isPassing(Path file) {
    for (Path name : file.getParent()) {
      if (PASSING.contains(name.toString().toLowerCase(Locale.ROOT))) {
        return true;
      }
    }
    return false;
  }

  private static Path proper(Path work, Path file, Collection<Path> documents) {
    String kind = FileName.of(file.getFileName().toString()).lowerExt();
    Map<Path, Long> folders =
        documents.stream()
            .filter(d -> FileName.of(d.getFileName().toString()).lowerExt().equals(kind))
            .map(Path::getParent)
            .collect(
                Collectors.groupingBy(Function.identity(), TreeMap::new, Collectors.counting()));
    return folders.entrySet().stream()
        .max(Comparator.comparing(Map.Entry<Path, Long>::getValue))
        .map(Map.Entry::getKey)
        .orElse(work);
  }
}
