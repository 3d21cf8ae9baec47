package dev.kavrin.server.restore;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.LinkSnapshots;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.springframework.stereotype.Service;

/**
 * The files a state leans on: as they were then where copies of then are held, else as they are,
 * else as they were seen last.
 */
@Service
public class UsedFiles {
  private final ProjectService projects;
  private final VersionService trail;
  private final LinkSnapshots snapshots;
  private final VersionFiles files;
  private final Disk disk;

  UsedFiles(
      ProjectService projects,
      VersionService trail,
      LinkSnapshots snapshots,
      VersionFiles files,
      Disk disk) {
    this.projects = projects;
    this.trail = trail;
    this.snapshots = snapshots;
    this.files = files;
    this.disk = disk;
  }

  /**
   * @param beside each file by its path from the document's folder
   * @param then those as they were then, or when they were seen last
   * @param now those of which no copy of then is held, as they are now
   * @param missing what it leans on and nobody has
   */
  public record Files(
      Map<String, Path> beside, List<String> then, List<String> now, List<String> missing) {}

  /**
   * @param source the copy of the state that is used
   */
  public Files of(Document document, String state, Path source) throws IOException {
    Path project = Path.of(projects.kept(document.project()).project().folder());
    Map<String, Path> beside = new TreeMap<>();
    snapshots.beside(source).forEach((path, file) -> beside.put(path, Path.of(file)));
    List<String> then = new ArrayList<>(beside.keySet());
    List<String> now = new ArrayList<>();
    List<String> missing = new ArrayList<>();
    for (VersionsView.Leaned link : trail.state(document.id(), state).links()) {
      Path live = live(project, document, link.path());
      String path = live == null ? link.path() : relative(document, live);
      if (beside.containsKey(path)) {
        continue;
      }
      if (live != null) {
        beside.put(path, live);
        now.add(path);
      } else if (!bringLast(project, document, link.path(), beside, then)) {
        missing.add(link.path());
      }
    }
    return new Files(beside, List.copyOf(then), now, missing);
  }

  /** Of a file that is gone goes what it held when it was seen last. */
  private boolean bringLast(
      Path project, Document document, String named, Map<String, Path> beside, List<String> then) {
    for (Path folder : List.of(project, document.live().getParent())) {
      Path file = folder.resolve(named).normalize();
      if (file.startsWith(project)) {
        Optional<Path> held =
            snapshots.seenLast(document, RelativePath.of(project, file)).flatMap(files::fileOf);
        if (held.isPresent()) {
          beside.put(relative(document, file), held.get());
          then.add(relative(document, file));
          return true;
        }
      }
    }
    return false;
  }

  /** Where a link leads in the project, from its folder or from the document's; null if nowhere. */
  @Nullable
  private Path live(Path project, Document document, String path) throws IOException {
    for (Path folder : List.of(document.live().getParent(), project)) {
      Path file = folder.resolve(path).normalize();
      if (file.startsWith(project) && disk.facts(file).filter(FileFacts::isFile).isPresent()) {
        return file;
      }
    }
    return null;
  }

  private static String relative(Document document, Path file) {
    return RelativePath.of(document.live().getParent(), file);
  }
}
