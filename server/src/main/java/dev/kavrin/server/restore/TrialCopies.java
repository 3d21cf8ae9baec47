package dev.kavrin.server.restore;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.store.NoRoomException;
import dev.kavrin.core.trail.Manifest;
import dev.kavrin.server.capture.Kept;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.trail.LinkSnapshots;
import dev.kavrin.server.trail.TrailService;
import dev.kavrin.server.trail.TrailView;
import dev.kavrin.server.trail.TrailView.CopyView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.stereotype.Service;

/**
 * Lays a state out under its proper name, to be opened in a person's own program: the only proof
 * there is for kinds nobody else can read. What is laid out may be read and not written.
 */
@Service
class TrialCopies {
  private static final String FOLDER = "trials";
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmss");

  private final ProjectService projects;
  private final TrailService trail;
  private final LinkSnapshots snapshots;
  private final Disk disk;
  private final Publisher publisher;

  TrialCopies(
      ProjectService projects,
      TrailService trail,
      LinkSnapshots snapshots,
      Disk disk,
      Publisher publisher) {
    this.projects = projects;
    this.trail = trail;
    this.snapshots = snapshots;
    this.disk = disk;
    this.publisher = publisher;
  }

  /**
   * What was laid out.
   *
   * @param file to open
   * @param beside what it leans on, as it was then, by its path from the file
   * @param now what it leans on, of which no copy of then is held, as it is now
   * @param missing what it leans on and nobody has
   */
  record TrialView(
      String file, List<String> beside, List<String> now, List<String> missing, long bytes) {}

  /**
   * @throws ProblemException no copy of the state can be reached, or it is a step of several files
   */
  TrialView layOut(UUID id, String state) throws IOException {
    Document document = projects.document(id);
    Kept kept = projects.kept(document.project());
    CopyView copy = trail.bestCopy(id, state);
    Path source = Path.of(copy.path());
    ContentId content = publisher.identify(source);
    if (!Manifest.ofFile(content).digest().equals(state)) {
      throw ProblemException.conflict(
          "changed-meanwhile", source + " no longer holds that state. Nothing was touched.");
    }
    Map<String, Path> beside = new TreeMap<>();
    snapshots.beside(source).forEach((path, file) -> beside.put(path, Path.of(file)));
    List<String> then = List.copyOf(beside.keySet());
    List<String> now = new ArrayList<>();
    List<String> missing = new ArrayList<>();
    for (TrailView.Leaned link : trail.state(id, state).links()) {
      Path live = liveLink(kept, document, link.path());
      String path = live == null ? link.path() : relative(document, live);
      if (!beside.containsKey(path)) {
        if (live == null) {
          missing.add(link.path());
        } else {
          beside.put(path, live);
          now.add(path);
        }
      }
    }
    Path file = place(kept, document, copy, beside);
    long bytes = content.length();
    for (Path link : beside.values()) {
      bytes += disk.facts(link).map(FileFacts::size).orElse(0L);
    }
    long free = disk.room(kept.recovery().root());
    if (free < bytes) {
      throw new NoRoomException(kept.recovery().root(), bytes, free);
    }
    disk.makeFolders(file.getParent());
    publisher.copyToRead(source, file);
    for (Map.Entry<String, Path> link : beside.entrySet()) {
      Path target = file.resolveSibling(link.getKey()).normalize();
      disk.makeFolders(target.getParent());
      publisher.copyToRead(link.getValue(), target);
    }
    return new TrialView(file.toString(), then, now, missing, bytes);
  }

  /** Where a link leads in the project, from its folder or from the document's; null if nowhere. */
  @Nullable
  private Path liveLink(Kept kept, Document document, String path) throws IOException {
    Path project = Path.of(kept.project().folder());
    for (Path folder : List.of(document.live().getParent(), project)) {
      Path file = folder.resolve(path).normalize();
      if (file.startsWith(project) && disk.facts(file).filter(FileFacts::isFile).isPresent()) {
        return file;
      }
    }
    return null;
  }

  private static String relative(Document document, Path file) {
    return document.live().getParent().relativize(file).toString();
  }

  /** Deep enough in a folder of its own that what lies above the document stays within, too. */
  private Path place(Kept kept, Document document, CopyView copy, Map<String, Path> beside)
      throws IOException {
    ZoneId zone = ZoneId.of(kept.project().zone());
    String name = document.live().getFileName().toString();
    String stem = FileName.of(name).stem() + "-from-" + TIME.format(copy.modified().atZone(zone));
    Path root = kept.recovery().root().resolve(FOLDER);
    Path folder = root.resolve(stem);
    for (int n = 2; disk.facts(folder).isPresent(); n++) {
      folder = root.resolve(stem + "-" + n);
    }
    int up = 0;
    for (String path : beside.keySet()) {
      up = Math.max(up, (int) Arrays.stream(path.split("/")).filter(".."::equals).count());
    }
    Path above = document.live().getParent();
    Path inside = folder;
    for (int level = Math.min(up, above.getNameCount()); level > 0; level--) {
      inside = inside.resolve(above.getName(above.getNameCount() - level));
    }
    return inside.resolve(name);
  }
}
