package dev.kavrin.server.incident;

import dev.kavrin.server.incident.IncidentService.Incident;
import dev.kavrin.server.incident.RecoverService.DeskView;
import java.io.IOException;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

@RestController
class IncidentController {
  private final IncidentService incidents;
  private final RecoverService desk;

  IncidentController(IncidentService incidents, RecoverService desk) {
    this.incidents = incidents;
    this.desk = desk;
  }

  @GetMapping("/api/projects/{id}/incidents")
  List<Incident> of(@PathVariable UUID id) {
    return incidents.of(id);
  }

  /** It crashed, says a person. */
  @PostMapping("/api/projects/{id}/incidents")
  Incident report(@PathVariable UUID id) throws IOException {
    return incidents.report(id);
  }

  @PostMapping("/api/projects/{project}/incidents/{id}/close")
  Incident close(@PathVariable UUID project, @PathVariable UUID id) throws IOException {
    return incidents.close(project, id);
  }

  record AnswerRequest(boolean crash) {}

  /** Was it a crash, or closed on purpose? */
  @PostMapping("/api/projects/{project}/incidents/{id}/answer")
  Incident answer(
      @PathVariable UUID project, @PathVariable UUID id, @RequestBody AnswerRequest request)
      throws IOException {
    return incidents.answer(project, id, request.crash());
  }

  @GetMapping("/api/documents/{id}/recovery")
  DeskView recovery(@PathVariable UUID id) {
    return desk.desk(id);
  }
}
