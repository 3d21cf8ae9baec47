package dev.kavrin.server.version;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Service;

/**
 * What lay beside a copy of Kavrin's when it was made. A copy in a recovery folder stands alone;
 * the files its document leaned on then were copied, too, each content once.
 */
@Service
public class LinkSnapshots {
  private final VersionRows.Copies copies;
  private final VersionRows.States states;
  private final VersionFiles files;
  private final FolderService places;
  private final ProjectService projects;
  private final Engine engine;

  LinkSnapshots(
      VersionRows.Copies copies,
      VersionRows.States states,
      VersionFiles files,
      FolderService places,
      ProjectService projects,
      Engine engine) {
    this.copies = copies;
    this.states = states;
    this.files = files;
    this.places = places;
    this.projects = projects;
    this.engine = engine;
  }

  /**
   * By the path from the folder of the document, with forward slashes; nothing for a file that is
   * no copy of Kavrin's, for beside that lies what it leans on.
   */
  public Map<String, String> beside(Path file) {
    return copyAt(file)
        .filter(c -> CopyKind.valueOf(c.sourceKind).isOurs())
        .map(this::snapshots)
        .orElse(Map.of());
  }

  /**
   * What a file that a document leans on held when it was seen last with it; empty if nobody saw
   * it.
   *
   * @param path of the file in the project
   */
  public Optional<ContentId> seenLast(Document document, String path) {
    return engine.project(document.project()).stream()
        .flatMap(k -> k.folder().history().leansOn(document.id()).values().stream())
        .flatMap(List::stream)
        .filter(l -> l.path().equals(path) && l.content() != null)
        .map(JournalEntry.Leaned::content)
        .reduce((a, b) -> b);
  }

  private Optional<CopyRow> copyAt(Path file) {
    return places.all().stream()
        .filter(p -> file.startsWith(p.path()))
        .max(Comparator.comparingInt(p -> p.path().getNameCount()))
        .flatMap(
            p ->
                copies.findByPlaceIdAndRelPathAndGoneIsNull(
                    p.key(), RelativePath.of(p.path(), file)));
  }

  private Map<String, String> snapshots(CopyRow copy) {
    Document document = projects.document(copy.documentId);
    String state = states.findById(copy.stateId).orElseThrow().manifestDigest;
    List<JournalEntry.Leaned> leaned =
        engine
            .project(document.project())
            .map(k -> k.folder().history().leansOn(document.id(), state))
            .orElse(List.of());
    Path folder = Path.of(document.path()).normalize();
    Map<String, String> found = new HashMap<>();
    for (JournalEntry.Leaned link : leaned) {
      if (link.content() != null) {
        String from = RelativePath.of(folder.resolveSibling(""), Path.of(link.path()));
        files.fileOf(link.content()).ifPresent(f -> found.put(from, f.toString()));
      }
    }
    return found;
  }
}
