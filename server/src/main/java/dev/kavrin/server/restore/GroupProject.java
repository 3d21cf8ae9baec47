package dev.kavrin.server.restore;

import dev.kavrin.server.people.ProjectOf;
import dev.kavrin.server.project.AllDocuments;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** To which project a restore of several documents belongs. */
@Component
class GroupProject implements ProjectOf {
  private final GroupRow.Repository groups;
  private final AllDocuments documents;

  GroupProject(GroupRow.Repository groups, AllDocuments documents) {
    this.groups = groups;
    this.documents = documents;
  }

  @Override
  public String noun() {
    return "group-restores";
  }

  @Override
  public Optional<UUID> project(UUID restore) {
    return groups.findByUuid(restore).map(g -> documents.projects().get(g.projectId));
  }
}
