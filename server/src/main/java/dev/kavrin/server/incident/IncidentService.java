package dev.kavrin.server.incident;

import dev.kavrin.core.incident.IncidentWatch;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.AllDocuments;
import dev.kavrin.server.project.ProjectService;
import java.io.IOException;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** What happened, and whether it still asks for somebody. */
@Service
public class IncidentService {
  private final IncidentRow.Repository incidents;
  private final ProjectService projects;
  private final AllDocuments documents;
  private final JournalFollower follower;
  private final InstantSource clock;

  IncidentService(
      IncidentRow.Repository incidents,
      ProjectService projects,
      AllDocuments documents,
      JournalFollower follower,
      InstantSource clock) {
    this.incidents = incidents;
    this.projects = projects;
    this.documents = documents;
    this.follower = follower;
    this.clock = clock;
  }

  /**
   * An incident.
   *
   * @param from last moment the program was known alive
   * @param to when its end was noticed
   * @param kind "crash", "reported", "closed", "asked" or "meant"
   * @param open false once somebody dealt with it
   */
  public record Incident(
      UUID id,
      UUID project,
      List<UUID> documents,
      Instant from,
      Instant to,
      String kind,
      List<String> evidence,
      boolean open) {}

  /** Newest first. */
  @Transactional(readOnly = true)
  public List<Incident> of(UUID project) {
    return incidents.findByProjectIdOrderBySpanToDesc(projects.key(project)).stream()
        .map(r -> seen(r, project))
        .toList();
  }

  /** Those nobody dealt with, by project, the newest first. */
  @Transactional(readOnly = true)
  public Map<UUID, List<Incident>> open() {
    List<IncidentRow> rows = incidents.findByOpenTrueOrderBySpanToDesc();
    Map<Long, UUID> uuids = documents.projects();
    return rows.stream()
        .map(r -> seen(r, uuids.get(r.projectId)))
        .collect(Collectors.groupingBy(Incident::project));
  }

  private static Incident seen(IncidentRow r, UUID project) {
    return new Incident(
        r.uuid,
        project,
        JsonMapper.shared().readValue(r.documents, new TypeReference<List<UUID>>() {}),
        r.spanFrom,
        r.spanTo,
        r.kind,
        JsonMapper.shared().readValue(r.evidence, new TypeReference<List<String>>() {}),
        r.open);
  }

  /** A person says it crashed: leftovers are held and secured at once. */
  public Incident report(UUID project) throws IOException {
    Kept kept = projects.kept(project);
    JournalEntry.IncidentSet incident = kept.incidents().report(kept.project());
    follower.follow();
    return byId(project, incident.id());
  }

  /** Dealt with; it stays on the trail. */
  public Incident close(UUID project, UUID id) throws IOException {
    return set(project, id, byId(project, id).kind(), false);
  }

  /**
   * A person says what a close with unsaved work was.
   *
   * @param crash false if they closed it like that on purpose; then nothing more is asked
   */
  public Incident answer(UUID project, UUID id, boolean crash) throws IOException {
    boolean elsewhere = byId(project, id).kind().equals(IncidentWatch.ASKED);
    String meant = elsewhere ? IncidentWatch.ASKED : IncidentWatch.MEANT;
    return set(project, id, crash ? "crash" : meant, crash);
  }

  private Incident set(UUID project, UUID id, String kind, boolean open) throws IOException {
    Incident i = byId(project, id);
    Kept kept = projects.kept(project);
    kept.folders()
        .record(
            new JournalEntry.IncidentSet(
                clock.instant(),
                i.id(),
                i.project(),
                i.documents(),
                i.from(),
                i.to(),
                kind,
                i.evidence(),
                open));
    follower.follow();
    return byId(project, id);
  }

  private Incident byId(UUID project, UUID id) {
    return of(project).stream()
        .filter(i -> i.id().equals(id))
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("No such incident."));
  }
}
