package dev.kavrin.core.watch;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.naming.Conventions;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.version.SetRule;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** Finds what lies in a project folder: documents by rule, and what looks like their backups. */
public final class Discovery {
  private static final int DEEPEST = 24;

  private Discovery() {}

  /**
   * @param documents paths of documents
   * @param backups what looks like a backup of one of them, by name
   * @param hidden files whose name or folder starts with a dot, documents left out
   * @param unaddressable names that are no readable text
   * @param unreadable folders that could not be listed
   */
  public record Found(
      List<Path> documents,
      List<Path> backups,
      List<Path> hidden,
      List<Path> unaddressable,
      List<Path> unreadable) {}

  /**
   * Looks through a folder without following links; Kavrin's own folders are left out.
   *
   * @param sets what makes a run, whose set-up is a document and whose steps are none
   * @param program what its copies are called, which are no documents even if they fit the rule
   */
  public static Found look(
      Disk disk, Path folder, List<String> rule, @Nullable SetRule sets, ProgramProfile program) {
    List<PathMatcher> matchers =
        rule.stream().map(g -> FileSystems.getDefault().getPathMatcher("glob:" + g)).toList();
    Predicate<Path> isDocument =
        name ->
            sets != null && sets.isSetup(name.toString())
                || (sets == null || !sets.isStep(name.toString()))
                    && matchers.stream().anyMatch(m -> m.matches(name));
    Found found =
        new Found(
            new ArrayList<>(),
            new ArrayList<>(),
            new ArrayList<>(),
            new ArrayList<>(),
            new ArrayList<>());
    List<Path> others = new ArrayList<>();
    List<Open> level = List.of(new Open(folder, false));
    Set<String> seen = new HashSet<>();
    while (!level.isEmpty()) {
      List<Open> below = new ArrayList<>();
      for (Listed listed : level.parallelStream().map(open -> Listed.of(disk, open)).toList()) {
        if (listed.unreadable()) {
          found.unreadable().add(listed.open().folder());
        }
        for (Entry entry : listed.entries()) {
          Path path = entry.path();
          String name = path.getFileName().toString();
          boolean hidden = listed.open().hidden() || name.startsWith(".");
          if (!Path.of(name).equals(path.getFileName())) {
            found.unaddressable().add(path);
          } else if (entry.facts().isFolder()) {
            boolean own = name.equals(FolderMarker.FOLDER);
            boolean deep = path.getNameCount() - folder.getNameCount() > DEEPEST;
            if (!own && !deep && seen.add(entry.facts().key())) {
              below.add(new Open(path, hidden));
            }
          } else if (entry.facts().isFile()) {
            boolean fits = isDocument.test(path.getFileName());
            (fits && !hidden ? found.documents() : others).add(path);
            if (hidden) {
              found.hidden().add(path);
            }
          }
        }
      }
      level = below;
    }
    List<Path> copies = copiesAmong(disk, found.documents(), program);
    found.documents().removeAll(copies);
    found.documents().sort(Comparator.naturalOrder());
    Set<String> stems =
        found.documents().stream()
            .map(d -> FileName.of(d.getFileName().toString()).stem())
            .collect(Collectors.toSet());
    others.stream()
        .filter(p -> looksLikeBackup(p.getFileName().toString(), stems))
        .forEach(found.backups()::add);
    return found;
  }

  /** Those that are leftovers of another one by the program's sheet. */
  private static List<Path> copiesAmong(Disk disk, List<Path> files, ProgramProfile program) {
    Map<String, List<Path>> byStem =
        files.stream()
            .collect(Collectors.groupingBy(f -> FileName.of(f.getFileName().toString()).stem()));
    List<Path> copies = new ArrayList<>();
    for (ProgramProfile.Leftover leftover : program.leftovers()) {
      for (Path file : files) {
        leftover
            .pattern()
            .parse(file.getFileName().toString())
            .map(f -> byStem.getOrDefault(f.stem(), List.of()))
            .filter(
                all ->
                    all.stream()
                        .filter(d -> !d.equals(file))
                        .anyMatch(d -> leftover.folders(disk, d).contains(file.getParent())))
            .ifPresent(all -> copies.add(file));
      }
    }
    return copies;
  }

  private record Open(Path folder, boolean hidden) {}

  private record Entry(Path path, FileFacts facts) {}

  /** A folder with what stands in it; what vanished meanwhile is left out. */
  private record Listed(Open open, List<Entry> entries, boolean unreadable) {
    static Listed of(Disk disk, Open open) {
      List<Entry> entries = new ArrayList<>();
      try {
        for (Path path : disk.list(open.folder())) {
          disk.facts(path).ifPresent(facts -> entries.add(new Entry(path, facts)));
        }
        return new Listed(open, entries, false);
      } catch (IOException closed) {
        return new Listed(open, entries, true);
      }
    }
  }

  /** Most names hold no stem of a document, which costs far less to see than all conventions. */
  private static boolean looksLikeBackup(String name, Set<String> stems) {
    int from = 0;
    while (from < name.length() && ".~#".indexOf(name.charAt(from)) >= 0) {
      from++;
    }
    for (int end = from + 1; end <= name.length(); end++) {
      if (stems.contains(name.substring(from, end))) {
        return Conventions.stemsBehind(name).stream().anyMatch(stems::contains);
      }
    }
    return false;
  }
}
