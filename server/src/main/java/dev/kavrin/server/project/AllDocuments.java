package dev.kavrin.server.project;

import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderService;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.data.domain.Sort;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The documents of all projects, in as few questions to the records as if there were one. */
@Service
public class AllDocuments {
  private final ProjectRows projects;
  private final DocumentRows documents;
  private final FolderService folders;

  AllDocuments(ProjectRows projects, DocumentRows documents, FolderService folders) {
    this.projects = projects;
    this.documents = documents;
    this.folders = folders;
  }

  /** By project, in the order of their paths. */
  @Transactional(readOnly = true)
  public Map<UUID, List<Document>> byProject() {
    Map<Long, List<DocumentRow>> rows =
        documents.findAll(Sort.by("relPath")).stream()
            .collect(Collectors.groupingBy(d -> d.projectId));
    Map<UUID, List<Document>> all = new HashMap<>();
    for (ProjectRow project : projects.findAll()) {
      Path work = folders.byKey(project.workPlaceId).map(Folder::path).orElse(Path.of(""));
      List<DocumentRow> its = rows.getOrDefault(project.id, List.of());
      all.put(project.uuid, its.stream().map(d -> seen(d, project, work)).toList());
    }
    return all;
  }

  /** Of one project; none while it is not recorded. */
  @Transactional(readOnly = true)
  public List<Document> of(UUID project) {
    return byProject().getOrDefault(project, List.of());
  }

  static Document seen(DocumentRow d, ProjectRow p, Path work) {
    return new Document(
        d.id, d.uuid, p.uuid, p.workPlaceId, d.relPath, work.resolve(d.relPath), d.linked);
  }

  /** The projects by their keys in the records. */
  @Transactional(readOnly = true)
  public Map<Long, UUID> projects() {
    return projects.findAll().stream().collect(Collectors.toMap(p -> p.id, p -> p.uuid));
  }
}
