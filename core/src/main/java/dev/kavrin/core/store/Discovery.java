package dev.kavrin.core.store;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.Conventions;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

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

  /** Looks through a folder without following links; Kavrin's own folders are left out. */
  public static Found look(Disk disk, Path folder, List<String> rule) {
    List<PathMatcher> matchers =
        rule.stream().map(g -> FileSystems.getDefault().getPathMatcher("glob:" + g)).toList();
    Found found =
        new Found(
            new ArrayList<>(),
            new ArrayList<>(),
            new ArrayList<>(),
            new ArrayList<>(),
            new ArrayList<>());
    List<Path> others = new ArrayList<>();
    Deque<Path> open = new ArrayDeque<>(List.of(folder));
    Set<String> seen = new HashSet<>();
    while (!open.isEmpty()) {
      Path next = open.pop();
      try {
        for (Path path : disk.list(next)) {
          FileFacts facts = disk.facts(path).orElse(null);
          if (facts == null) {
            continue;
          }
          if (!Path.of(path.toString()).equals(path)) {
            found.unaddressable().add(path);
          } else if (facts.isFolder()) {
            boolean own = path.getFileName().toString().equals(PlaceMarker.FOLDER);
            boolean deep = path.getNameCount() - folder.getNameCount() > DEEPEST;
            if (!own && !deep && seen.add(facts.key())) {
              open.push(path);
            }
          } else if (facts.isFile()) {
            boolean fits = matchers.stream().anyMatch(m -> m.matches(path.getFileName()));
            boolean hidden = isHidden(folder, path);
            (fits && !hidden ? found.documents() : others).add(path);
            if (hidden) {
              found.hidden().add(path);
            }
          }
        }
      } catch (IOException closed) {
        found.unreadable().add(next);
      }
    }
    found.documents().sort(Comparator.naturalOrder());
    others.stream()
        .filter(p -> looksLikeBackup(p, found.documents()))
        .forEach(found.backups()::add);
    return found;
  }

  private static boolean isHidden(Path folder, Path path) {
    for (Path name : folder.relativize(path)) {
      if (name.toString().startsWith(".")) {
        return true;
      }
    }
    return false;
  }

  private static boolean looksLikeBackup(Path path, List<Path> documents) {
    String name = path.getFileName().toString();
    return documents.stream()
        .anyMatch(d -> Conventions.backupOf(name, d.getFileName().toString()).isPresent());
  }
}
