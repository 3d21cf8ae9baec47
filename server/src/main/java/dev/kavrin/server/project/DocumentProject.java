package dev.kavrin.server.project;

import dev.kavrin.server.people.ProjectOf;
import dev.kavrin.server.platform.ProblemException;
import java.util.Optional;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** To which project a document belongs, for whoever asks whether a person may see it. */
@Component
class DocumentProject implements ProjectOf {
  private final ProjectService projects;

  DocumentProject(ProjectService projects) {
    this.projects = projects;
  }

  @Override
  public String noun() {
    return "documents";
  }

  @Override
  public Optional<UUID> project(UUID document) {
    try {
      return Optional.of(projects.document(document).project());
    } catch (ProblemException noSuchDocument) {
      return Optional.empty();
    }
  }
}
