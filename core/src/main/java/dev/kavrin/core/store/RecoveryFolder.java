package dev.kavrin.core.store;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.naming.CaptureName;
import dev.kavrin.core.naming.FileName;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Optional;
import java.util.UUID;

/**
 * A folder that takes copies: plain files, a journal, a bin. Opened once in a process.
 *
 * @param root absolute path
 * @param uuid of the place, as its marker must say
 * @param node this installation
 */
public record RecoveryFolder(
    Disk disk, Path root, UUID uuid, String node, Journal journal, History history) {

  /** Reads the journal; an empty folder is an empty history. */
  public static RecoveryFolder open(Disk disk, Path root, UUID uuid, String node)
      throws IOException {
    Journal journal = new Journal(disk, journalFile(root));
    return new RecoveryFolder(
        disk, root, uuid, node, journal, History.of(journal.readAll().entries()));
  }

  public static Path journalFile(Path root) {
    return root.resolve(PlaceMarker.FOLDER).resolve("journal.jsonl");
  }

  /** Writes a line and takes it in. */
  public void record(JournalEntry entry) throws IOException {
    requireHere();
    journal.append(entry);
    history.add(entry);
  }

  /**
   * @throws PlaceAwayException the marker is missing or another's
   */
  public void requireHere() throws IOException {
    if (PlaceMarker.read(disk, root).filter(this::isOurs).isEmpty()) {
      throw new PlaceAwayException(root);
    }
  }

  private boolean isOurs(PlaceMarker marker) {
    return marker.uuid().equals(uuid) && marker.node().equals(node);
  }

  /** The folder that takes a document's copies. */
  public Path folderFor(ProjectRecord project, String documentPath) {
    Path inProject = Path.of(project.slug()).resolve(documentPath).getParent();
    return root.resolve(inProject);
  }

  public Path bin() {
    return root.resolve(PlaceMarker.FOLDER).resolve("bin");
  }

  public Path absolute(String relative) {
    return root.resolve(relative);
  }

  public String relative(Path path) {
    return root.relativize(path).toString();
  }

  /** A free name for the next copy of a document. */
  Path nextName(ProjectRecord project, String documentPath, UUID document, Instant work)
      throws IOException {
    Path folder = folderFor(project, documentPath);
    disk.makeFolders(folder);
    String name = Path.of(documentPath).getFileName().toString();
    long last = history.lastSequence(document);
    for (Path path : disk.list(folder)) {
      Optional<CaptureName> found = CaptureName.parse(path.getFileName().toString());
      if (found.filter(c -> FileName.of(name).stem().startsWith(c.stem())).isPresent()) {
        last = Math.max(last, found.get().sequence());
      }
    }
    return folder.resolve(
        CaptureName.of(name, last + 1, work.atZone(ZoneId.of(project.zone())).toOffsetDateTime())
            .written());
  }
}
