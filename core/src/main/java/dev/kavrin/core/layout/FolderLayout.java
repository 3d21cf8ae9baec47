package dev.kavrin.core.layout;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.RelativePath;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * Which folders a project has and what belongs into each. Written as text, one folder a line: its
 * path, a colon, the names that belong there with {@code *} for anything; {@code #} begins a
 * remark.
 *
 * @param branches in the order of the text; the first that fits a name is where it belongs
 */
public record FolderLayout(List<Branch> branches) {
  /** A common order of things for drawn and modelled work; common practice, no source. */
  public static final String STANDARD =
      """
      saves: *.glb *.gltf *.dxf
      exports: *.obj *.stl *.ply
      sketches: *.svg
      references: *.jpg *.jpeg *.pdf
      trial-renders: *trial*.png
      final-renders: *final*.png *.tif *.tiff
      """;

  private static final int DEEPEST = 12;

  /** A folder relative to the project's, and globs of what belongs there. */
  public record Branch(String folder, List<String> names) {
    boolean takes(Path name) {
      return names.stream().anyMatch(n -> matcher(n).matches(name));
    }

    private static PathMatcher matcher(String glob) {
      return FileSystems.getDefault().getPathMatcher("glob:" + glob);
    }
  }

  /** A file that lies elsewhere than its name says; both relative to the project folder. */
  public record Misfiled(String path, String belongs) {}

  /**
   * @throws IllegalArgumentException says which line is wrong and why
   */
  public static FolderLayout parse(String text) {
    List<Branch> branches = new ArrayList<>();
    int number = 0;
    for (String raw : text.split("\n", -1)) {
      number++;
      String line = raw.replaceFirst("#.*", "").strip();
      if (!line.isEmpty()) {
        Branch branch = branch(line, number);
        if (branches.stream().anyMatch(b -> b.folder().equals(branch.folder()))) {
          throw wrong(number, "names " + branch.folder() + " a second time");
        }
        branches.add(branch);
      }
    }
    return new FolderLayout(List.copyOf(branches));
  }

  private static Branch branch(String line, int number) {
    int colon = line.indexOf(':');
    String folder = (colon < 0 ? line : line.substring(0, colon)).strip();
    Path path;
    try {
      path = Path.of(folder);
    } catch (java.nio.file.InvalidPathException odd) {
      throw wrong(number, "is no folder name");
    }
    boolean leaves = path.isAbsolute();
    for (Path piece : path) {
      leaves |= piece.toString().equals("..") || piece.toString().equals(".");
    }
    if (folder.isEmpty() || leaves) {
      throw wrong(number, "must name a folder inside the project, got '" + folder + "'");
    }
    if (folder.equals(".kavrin") || folder.startsWith(".kavrin/")) {
      throw wrong(number, "names Kavrin's own folder");
    }
    String names = colon < 0 ? "" : line.substring(colon + 1).strip();
    List<String> globs = names.isEmpty() ? List.of() : Arrays.asList(names.split("\\s+"));
    try {
      globs.forEach(Branch::matcher);
    } catch (RuntimeException unreadable) {
      throw wrong(number, "has a name that cannot be read: " + unreadable.getMessage());
    }
    return new Branch(path.toString(), globs);
  }

  private static IllegalArgumentException wrong(int line, String why) {
    return new IllegalArgumentException("Line " + line + " " + why);
  }

  /** Folders that are not there yet. */
  public List<String> missing(Disk disk, Path project) throws IOException {
    List<String> missing = new ArrayList<>();
    for (Branch branch : branches) {
      if (disk.facts(project.resolve(branch.folder())).isEmpty()) {
        missing.add(branch.folder());
      }
    }
    return missing;
  }

  /**
   * Files in the project folder itself or in one of the branches that belong into another. Folders
   * that are no branch are the person's own and left alone.
   */
  public List<Misfiled> misfiled(Disk disk, Path project) throws IOException {
    List<Misfiled> found = new ArrayList<>();
    for (Path file : files(disk, project, false, 0)) {
      add(found, project, file, "");
    }
    for (Branch branch : branches) {
      Path folder = project.resolve(branch.folder());
      if (disk.facts(folder).filter(FileFacts::isFolder).isPresent()) {
        for (Path file : files(disk, folder, true, 0)) {
          if (!branch.takes(file.getFileName())) {
            add(found, project, file, branch.folder());
          }
        }
      }
    }
    return found.stream()
        .distinct()
        .sorted(java.util.Comparator.comparing(Misfiled::path))
        .toList();
  }

  private void add(List<Misfiled> found, Path project, Path file, String here) {
    Optional<Branch> belongs =
        branches.stream().filter(b -> b.takes(file.getFileName())).findFirst();
    belongs
        .filter(b -> !b.folder().equals(here))
        .filter(b -> !file.startsWith(project.resolve(b.folder())))
        .ifPresent(b -> found.add(new Misfiled(RelativePath.of(project, file), b.folder())));
  }

  private static List<Path> files(Disk disk, Path folder, boolean deep, int depth)
      throws IOException {
    List<Path> files = new ArrayList<>();
    for (Path path : disk.list(folder)) {
      FileFacts facts = disk.facts(path).orElse(null);
      boolean hidden = path.getFileName().toString().startsWith(".");
      if (facts != null && facts.isFile() && !hidden) {
        files.add(path);
      } else if (facts != null && facts.isFolder() && !hidden && deep && depth < DEEPEST) {
        files.addAll(files(disk, path, true, depth + 1));
      }
    }
    return files;
  }
}
