package dev.kavrin.server.restore;

import dev.kavrin.core.backup.NoRoomException;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.Formats;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.CopyView;
import java.io.IOException;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Service;
import tools.jackson.databind.json.JsonMapper;

/**
 * Lays a state out under its proper name, or with the ending its content has where nobody knows its
 * own, to be opened in a person's own program: the only proof there is for kinds nobody else can
 * read. What is laid out may be read and not written.
 */
@Service
class TrialCopies {
  private static final String FOLDER = "trials";
  private static final String LAID = ".laid.json";
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmss");

  private final ProjectService projects;
  private final VersionService trail;
  private final UsedFiles leanedOn;
  private final Disk disk;
  private final Publisher publisher;

  TrialCopies(
      ProjectService projects,
      VersionService trail,
      UsedFiles leanedOn,
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
          "changed-meanwhile", source + " no longer holds that version. Nothing was touched.");
    }
    UsedFiles.Files leaned = leanedOn.of(document, state, source);
    Map<String, Path> beside = leaned.beside();
    Path file = place(kept, document, copy, beside).resolveSibling(nameFor(document, source));
    long bytes = content.length();
    for (Path link : beside.values()) {
      bytes += disk.facts(link).map(FileFacts::size).orElse(0L);
    }
    long free = disk.room(kept.folder().root());
    if (free < bytes) {
      throw new NoRoomException(kept.folder().root(), bytes, free);
    }
    Map<Path, Path> laid = new LinkedHashMap<>();
    laid.put(file, source);
    beside.forEach((path, link) -> laid.put(file.resolveSibling(path).normalize(), link));
    note(folderOf(root(kept), file), laid);
    for (Map.Entry<Path, Path> one : laid.entrySet()) {
      disk.makeFolders(one.getKey().getParent());
      publisher.copyToRead(one.getValue(), one.getKey());
    }
    return new TrialView(file.toString(), leaned.then(), leaned.now(), leaned.missing(), bytes);
  }

  private String nameFor(Document document, Path source) throws IOException {
    try (SeekableByteChannel in = disk.read(source)) {
      return Formats.openable(in, document.live().getFileName().toString());
    }
  }

  private static Path root(Kept kept) {
    return kept.folder().root().resolve(FOLDER);
  }

  private static Path folderOf(Path root, Path file) {
    return root.resolve(root.relativize(file).getName(0));
  }

  /** Notes beside the folder what will be laid out in it, so that only that is cleared away. */
  private void note(Path folder, Map<Path, Path> laid) throws IOException {
    Map<String, String> list = new LinkedHashMap<>();
    for (Map.Entry<Path, Path> one : laid.entrySet()) {
      ContentId content = publisher.identify(one.getValue());
      list.put(RelativePath.of(folder, one.getKey()), content.toString());
    }
    byte[] bytes = JsonMapper.shared().writeValueAsBytes(list);
    disk.makeFolders(folder.getParent());
    publisher.publish(
        noteOf(folder), sink -> sink.write(bytes, 0, bytes.length), PublishCheck.NONE);
  }

  private static Path noteOf(Path folder) {
    return folder.resolveSibling(folder.getFileName() + LAID);
  }

  /** Trial copies in a project's recovery folder. */
  record Standing(int copies, long bytes) {}

  Standing standing(UUID id) throws IOException {
    long bytes = 0;
    List<Path> folders = standing(id, this::isFolder);
    for (Path folder : folders) {
      bytes += size(folder);
    }
    return new Standing(folders.size(), bytes);
  }

  /** Clears what was laid out; what somebody saved beside it stays, as does its source. */
  Standing clear(UUID id) throws IOException {
    for (Path note : standing(id, path -> path.toString().endsWith(LAID))) {
      String name = note.getFileName().toString();
      Path folder = note.resolveSibling(name.substring(0, name.length() - LAID.length()));
      if (isFolder(folder)) {
        publisher.clearLaid(folder, laidIn(note));
      }
      if (!isFolder(folder)) {
        publisher.purge(note);
      }
    }
    return standing(id);
  }

  private Map<String, ContentId> laidIn(Path note) throws IOException {
    Map<String, ContentId> laid = new LinkedHashMap<>();
    try (SeekableByteChannel in = disk.read(note)) {
      JsonMapper.shared()
          .readTree(Channels.newInputStream(in))
          .properties()
          .forEach(one -> laid.put(one.getKey(), ContentId.parse(one.getValue().asString())));
    }
    return laid;
  }

  private boolean isTaken(Path folder) throws IOException {
    return disk.facts(folder).isPresent() || disk.facts(noteOf(folder)).isPresent();
  }

  private boolean isFolder(Path path) throws IOException {
    return disk.facts(path).filter(FileFacts::isFolder).isPresent();
  }

  private interface Which {
    boolean is(Path path) throws IOException;
  }

  private List<Path> standing(UUID id, Which which) throws IOException {
    Path root = root(projects.kept(projects.document(id).project()));
    List<Path> standing = new ArrayList<>();
    for (Path path : isFolder(root) ? disk.list(root) : List.<Path>of()) {
      if (which.is(path)) {
        standing.add(path);
      }
    }
    return standing;
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
    Path root = root(kept);
    Path folder = root.resolve(stem);
    for (int n = 2; isTaken(folder); n++) {
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
