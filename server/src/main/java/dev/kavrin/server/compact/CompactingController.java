package dev.kavrin.server.compact;

import dev.kavrin.core.compact.CompactingProposal;
import dev.kavrin.core.compact.Compactor;
import dev.kavrin.core.compact.OlderVersions;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.plan.Compacting;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.ProjectService;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Older versions for the room of a few. */
@RestController
class CompactingController implements JobKinds {
  private final ProjectService projects;
  private final JournalFollower follower;
  private final JobService jobs;
  private final JobKind<AsIf> measuring =
      JobKind.repeatable("measure-compacting", Lane.ASKED, AsIf.class, this::measure);
  private final JobKind<Now> compacting =
      JobKind.repeatable("compact", Lane.ASKED, Now.class, this::compact);

  CompactingController(ProjectService projects, JournalFollower follower, JobService jobs) {
    this.projects = projects;
    this.follower = follower;
    this.jobs = jobs;
  }

  /** As if these were to stay plain files. */
  record AsIf(UUID project, int newest, int every) {}

  /** All that is due. */
  record Now(UUID project) {}

  /**
   * @param proposed that it would pay, where the plan does not want it; null where it would not, or
   *     nobody knows yet
   */
  record CompactingView(OlderVersions.Compacted standing, @Nullable CompactingProposal proposed) {}

  @GetMapping("/api/projects/{id}/compacting")
  CompactingView standing(@PathVariable UUID id) {
    Kept kept = projects.kept(id);
    return new CompactingView(
        kept.older().standing(kept.project()), kept.older().proposal().orElse(null));
  }

  /** Reads some of the project's own versions and tells; nothing is written. */
  @PostMapping("/api/projects/{id}/compacting/measure")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job measure(
      @PathVariable UUID id,
      @RequestParam(defaultValue = "5") int newest,
      @RequestParam(defaultValue = "50") int every,
      Principal who) {
    wish(newest, every);
    projects.kept(id);
    return jobs.begin(measuring, id.toString(), new AsIf(id, newest, every), who.getName());
  }

  private static Compacting wish(int newest, int every) {
    try {
      return new Compacting(true, newest, every);
    } catch (IllegalArgumentException wrong) {
      throw ProblemException.badInput("plain-versions", wrong.getMessage());
    }
  }

  /** All that the plan wants compacted, whoever works meanwhile. */
  @PostMapping("/api/projects/{id}/compacting/now")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job compactNow(@PathVariable UUID id, Principal who) {
    Kept kept = projects.kept(id);
    boolean on = kept.project().plan().compacting().on();
    if (!on && kept.older().standing(kept.project()).due() == 0) {
      throw ProblemException.conflict(
          "not-in-the-plan",
          "The plan of this project leaves older versions as they are. Nothing was changed.");
    }
    return jobs.begin(compacting, id.toString(), new Now(id), who.getName());
  }

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(measuring, compacting);
  }

  private OlderVersions.Estimate measure(AsIf asIf, JobRun job) throws IOException {
    job.at(-1, "reading some of its versions");
    Kept kept = projects.kept(asIf.project());
    return kept.older().estimate(kept.project(), wish(asIf.newest(), asIf.every()));
  }

  private Compactor.Outcome compact(Now now, JobRun job) throws IOException {
    Kept kept = projects.kept(now.project());
    int[] all = {0};
    Compactor.Outcome outcome =
        kept.older()
            .now(
                kept.project(),
                left -> {
                  all[0] = Math.max(all[0], left);
                  job.at(1 - (double) left / Math.max(1, all[0]), left + " versions left");
                });
    follower.follow();
    return outcome;
  }
}
