package dev.kavrin.core.watch;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Work that was never saved: what a program left of documents of which no file stands. */
public final class NeverSaved {
  private static final Pattern ENDING = Pattern.compile("\\*(?:.*)?\\.([A-Za-z0-9]+)");

  private NeverSaved() {}

  /**
   * Looks where the program of a project leaves copies by itself.
   *
   * @param documents whole paths of all documents there are, of other projects too
   * @return paths those would have in the project folder, once saved
   */
  public static Set<String> look(Disk disk, ProjectRecord project, Collection<Path> documents) {
    Path root = Path.of(project.folder());
    Set<Path> folders = new TreeSet<>(List.of(root));
    documents.stream().filter(d -> d.startsWith(root)).forEach(d -> folders.add(d.getParent()));
    Set<String> found = new TreeSet<>();
    for (ProgramProfile.Leftover rule : project.program().leftovers()) {
      if (rule.kind() != CopyKind.AUTOSAVE && rule.kind() != CopyKind.RESCUE) {
        continue;
      }
      boolean inside = rule.folder().staysInside();
      for (Path folder : inside ? folders : Set.of(root)) {
        Collection<Path> near =
            inside
                ? documents.stream().filter(d -> d.getParent().equals(folder)).toList()
                : documents;
        for (String stem : stemsIn(disk, rule, folder, near, ending(project))) {
          found.add(RelativePath.of(root, folder.resolve(stem + ending(project))));
        }
      }
    }
    return found;
  }

  /** Of files that are no known document's copies, and whose ending is not another kind's. */
  private static Set<String> stemsIn(
      Disk disk,
      ProgramProfile.Leftover rule,
      Path folder,
      Collection<Path> documents,
      String ending) {
    Set<String> stems = new TreeSet<>();
    for (Path place : rule.folders(disk, folder.resolve("any"))) {
      for (Path path : listed(disk, place)) {
        String name = path.getFileName().toString();
        boolean known =
            documents.stream().anyMatch(d -> rule.fits(name, d.getFileName().toString()));
        rule.pattern()
            .parse(name)
            .filter(f -> !known)
            .filter(f -> f.ext().isEmpty() || ("." + f.ext()).equalsIgnoreCase(ending))
            .map(f -> f.stem())
            .filter(stem -> !stem.isEmpty() && !stem.startsWith("."))
            .ifPresent(stems::add);
      }
    }
    return stems;
  }

  private static List<Path> listed(Disk disk, Path folder) {
    List<Path> files = new ArrayList<>();
    try {
      for (Path path : disk.list(folder)) {
        if (disk.facts(path).filter(FileFacts::isFile).filter(f -> f.size() > 0).isPresent()) {
          files.add(path);
        }
      }
    } catch (IOException absent) {
      return List.of();
    }
    return files;
  }

  /** What the project's documents end in, with the dot; empty if its rule does not say. */
  private static String ending(ProjectRecord project) {
    return project.rule().stream()
        .map(ENDING::matcher)
        .filter(Matcher::matches)
        .map(m -> "." + m.group(1))
        .findFirst()
        .orElse("");
  }
}
