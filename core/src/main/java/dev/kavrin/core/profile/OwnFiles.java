package dev.kavrin.core.profile;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.naming.Surroundings;
import java.nio.file.Path;
import java.util.List;

/**
 * Files by which a program works as its person likes: templates, tool presets, libraries,
 * arrangements of windows, preferences. They are work too, but lie in no project.
 *
 * @param folder where they lie, a relative one seen from the project's folder
 * @param rule names of those that are meant, like the rule of a project
 */
public record OwnFiles(FolderPattern folder, List<String> rule) {
  /**
   * @throws IllegalArgumentException no folder or no name is meant
   */
  public OwnFiles {
    if (folder == null) {
      throw new IllegalArgumentException("A program's own files need a folder");
    }
    rule = rule == null ? List.of() : rule.stream().map(String::strip).distinct().toList();
    if (rule.isEmpty() || rule.stream().anyMatch(String::isEmpty)) {
      throw new IllegalArgumentException(
          "A program's own files in " + folder + " need names, such as *.preset");
    }
  }

  public static OwnFiles of(String folder, String... rule) {
    return new OwnFiles(FolderPattern.of(folder), List.of(rule));
  }

  /**
   * The folder whose contents tell which folders there are, or that folder itself.
   *
   * @throws IllegalArgumentException a variable in the path is not set here
   */
  public Path top(Path project) {
    return folder.fixed(inside(project), Surroundings.here());
  }

  /**
   * The folders that are there, such as one for each version of the program.
   *
   * @throws IllegalArgumentException a variable in the path is not set here
   */
  public List<Path> folders(Disk disk, Path project) {
    return folder.folders(disk, inside(project), Surroundings.here());
  }

  private static Path inside(Path project) {
    return project.resolve("any");
  }
}
