package dev.kavrin.server.restore;

import dev.kavrin.server.people.ProjectOf;
import dev.kavrin.server.project.ProjectService;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** To which project a restore of several documents belongs. */
@Component
class GroupProject implements ProjectOf {
  private final GroupRow.Repository groups;
  private final ProjectService projects;

  GroupProject(GroupRow.Repository groups, ProjectService projects) {
    this.groups = groups;
    this.projects = projects;
  }

  @Override
  public String noun() {
    return "group-restores";
  }

  @Override
  public Optional<UUID> project(UUID restore) {
    return groups
        .findByUuid(restore)
        .flatMap(
            g ->
                projects.all().stream()
                    .map(ProjectService.Project::id)
                    .filter(p -> projects.key(p) == g.projectId)
                    .findFirst());
  }
}
