package dev.kavrin.server.cleanup;

import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.incident.Leftovers;
import dev.kavrin.core.incident.Leftovers.Leftover;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.security.Principal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** A program's own copies: taken away one by one, by name, and only after they were copied. */
@RestController
class LeftoversController implements JobKinds {
  private final JobService jobs;
  private final JobKind<Confirmed> clearing =
      JobKind.once("clear-leftovers", Lane.ASKED, Confirmed.class, this::clear);
  private static final Logger LOG = LoggerFactory.getLogger(LeftoversController.class);

  private final ProjectService projects;
  private final Engine engine;
  private final JournalFollower follower;

  LeftoversController(
      ProjectService projects, Engine engine, JournalFollower follower, JobService jobs) {
    this.jobs = jobs;
    this.projects = projects;
    this.engine = engine;
    this.follower = follower;
  }

  record LeftoverLine(
      String document, String path, CopyKind kind, long size, Instant modified, String name) {}

  /**
   * @param programRuns true while it may still need them; nothing can be cleared then
   */
  record LeftoversView(String program, boolean programRuns, List<LeftoverLine> files) {}

  /**
   * @param path as it was shown
   * @param modified last write as it was shown
   */
  record LeftoverNamed(@NotNull String path, @NotNull Instant modified) {}

  record LeftoversRequest(@NotEmpty List<@Valid LeftoverNamed> files) {}

  /**
   * @param words why it was left alone
   */
  record LeftAlone(String path, String words) {}

  record LeftoversCleared(int cleared, List<LeftAlone> leftAlone) {}

  @GetMapping("/api/projects/{id}/leftovers")
  LeftoversView leftovers(@PathVariable UUID id) {
    Kept kept = projects.kept(id);
    return new LeftoversView(
        kept.project().program().name(),
        kept.incidents().programRuns(kept.project()),
        found(kept).values().stream()
            .map(
                l ->
                    new LeftoverLine(
                        l.documentPath(),
                        l.path().toString(),
                        l.kind(),
                        l.facts().size(),
                        l.facts().modified(),
                        l.path().getFileName().toString()))
            .toList());
  }

  @PostMapping("/api/projects/{id}/leftovers")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job clear(@PathVariable UUID id, @Valid @RequestBody LeftoversRequest request, Principal who) {
    return jobs.begin(clearing, id.toString(), new Confirmed(id, request), who.getName());
  }

  /** What a person confirmed. */
  record Confirmed(UUID project, LeftoversRequest request) {}

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(clearing);
  }

  private LeftoversCleared clear(Confirmed confirmed, JobRun job) {
    LeftoversRequest request = confirmed.request();
    Kept kept = projects.kept(confirmed.project());
    if (kept.incidents().programRuns(kept.project())) {
      throw ProblemException.conflict(
          "program-runs",
          kept.project().program().name()
              + " runs and may still need them. Nothing was taken away.");
    }
    Map<String, Leftover> found = found(kept);
    List<LeftAlone> left = new ArrayList<>();
    for (LeftoverNamed named : request.files()) {
      job.at((double) request.files().indexOf(named) / request.files().size(), named.path());
      Leftover leftover = found.get(named.path());
      if (leftover == null) {
        left.add(new LeftAlone(named.path(), "It is no copy of this program's, or it is gone."));
      } else if (!leftover.facts().modified().equals(named.modified())) {
        left.add(new LeftAlone(named.path(), "It was written since it was shown."));
      } else {
        clear(kept, leftover, job.person(), left);
      }
    }
    follower.follow();
    return new LeftoversCleared(request.files().size() - left.size(), left);
  }

  private static void clear(Kept kept, Leftover leftover, String who, List<LeftAlone> left) {
    String path = leftover.path().toString();
    try {
      kept.cleanup().clear(kept.project(), leftover, who);
    } catch (NoSuchFileException gone) {
      left.add(new LeftAlone(path, "It is gone already."));
    } catch (SourceException.StillWritten moving) {
      left.add(new LeftAlone(path, "It is being written; it stands where it stood."));
    } catch (IOException failed) {
      LOG.warn("{} was not cleared out: {}", path, failed.getMessage());
      left.add(new LeftAlone(path, "It could not be copied first: " + failed.getMessage()));
    }
  }

  /** By path, those that belong to several documents once. */
  private Map<String, Leftover> found(Kept kept) {
    List<Leftover> all = new ArrayList<>();
    for (Document document : projects.documents(kept.project().id())) {
      if (!document.linked()) {
        all.addAll(
            Leftovers.find(
                engine.disk(), kept.project(), document.id(), document.path(), kept.livePaths()));
      }
    }
    return all.stream()
        .collect(
            Collectors.toMap(
                l -> l.path().toString(),
                Function.identity(),
                (a, b) -> a,
                java.util.TreeMap::new));
  }
}
