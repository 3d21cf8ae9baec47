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
import dev.kavrin.server.trail.TrailService;
import dev.kavrin.server.trail.TrailView.CopyView;
import java.io.IOException;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
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
  private final LeanedOn leanedOn;
  private final Disk disk;
  private final Publisher publisher;

  TrialCopies(
      ProjectService projects,
      TrailService trail,
      LeanedOn leanedOn,
      Disk disk,
      Publisher publisher) {
    this.projects = projects;
    this.trail = trail;
    this.leanedOn = leanedOn;
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
    LeanedOn.Files leaned = leanedOn.of(document, state, source);
    Map<String, Path> beside = leaned.beside();
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
    return new TrialView(file.toString(), leaned.then(), leaned.now(), leaned.missing(), bytes);
  }

  /** Trial copies in a project's recovery folder. */
  record Standing(int copies, long bytes) {}

  Standing standing(UUID id) throws IOException {
    long bytes = 0;
    List<Path> folders = folders(id);
    for (Path folder : folders) {
      bytes += size(folder);
    }
    return new Standing(folders.size(), bytes);
  }

  /** Clears all of them away; what they were copied from stays. */
  Standing clear(UUID id) throws IOException {
    for (Path folder : folders(id)) {
      publisher.clearScratch(folder);
    }
    return standing(id);
  }

  private List<Path> folders(UUID id) throws IOException {
    Kept kept = projects.kept(projects.document(id).project());
    Path root = kept.recovery().root().resolve(FOLDER);
    return disk.facts(root).filter(FileFacts::isFolder).isPresent() ? disk.list(root) : List.of();
  }

  private long size(Path path) throws IOException {
    FileFacts facts = disk.facts(path).orElse(null);
    if (facts == null || !facts.isFolder()) {
      return facts == null ? 0 : facts.size();
    }
    long bytes = 0;
    for (Path below : disk.list(path)) {
      bytes += size(below);
    }
    return bytes;
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
