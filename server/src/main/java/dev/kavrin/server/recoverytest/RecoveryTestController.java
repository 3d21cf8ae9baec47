package dev.kavrin.server.recoverytest;

import dev.kavrin.core.journal.JournalEntry.Rehearsed;
import dev.kavrin.core.journal.Proof;
import dev.kavrin.core.recoverytest.FailureMode;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.recoverytest.GuidedRecoveryTest.Guided;
import dev.kavrin.server.recoverytest.RecoveryTestService.Proven;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Crashes on purpose. */
@RestController
class RecoveryTestController {
  private final RecoveryTestService rehearsals;
  private final GuidedRecoveryTest guided;
  private final NightlyProof nightly;
  private final ProjectService projects;
  private final RecoveryTestJobs jobs;

  RecoveryTestController(
      RecoveryTestService rehearsals,
      GuidedRecoveryTest guided,
      NightlyProof nightly,
      ProjectService projects,
      RecoveryTestJobs jobs) {
    this.jobs = jobs;
    this.rehearsals = rehearsals;
    this.guided = guided;
    this.nightly = nightly;
    this.projects = projects;
  }

  /** A rehearsal with its record. */
  record RehearsalView(UUID id, Instant made, String who, Proof proof) {
    static RehearsalView of(Rehearsed r) {
      return new RehearsalView(r.id(), r.at(), r.who(), r.proof());
    }
  }

  /**
   * @param ways that can be rehearsed, with their words
   * @param going one with the person's own program that goes on
   * @param done newest first
   */
  record RehearsalsView(
      Proven proven, List<WayView> ways, @Nullable Guided going, List<RehearsalView> done) {}

  record WayView(FailureMode way, String words) {}

  @GetMapping("/api/documents/{id}/recovery-tests")
  RehearsalsView records(@PathVariable UUID id) {
    return new RehearsalsView(
        rehearsals.proven(projects.document(id).project()),
        List.of(FailureMode.values()).stream().map(w -> new WayView(w, w.words())).toList(),
        guided.at(id).orElse(null),
        rehearsals.all(id).stream().filter(r -> r.proof() != null).map(RehearsalView::of).toList());
  }

  record DrillRequest(@NotNull FailureMode way) {}

  /** Begins a crash on a copy, with the stand-in; the job's result is its record. */
  @PostMapping("/api/documents/{id}/recovery-tests")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job crash(@PathVariable UUID id, @Valid @RequestBody DrillRequest r, Principal who) {
    return jobs.begin(id, r.way(), who.getName());
  }

  /** Begins one with the person's own program. */
  @PostMapping("/api/documents/{id}/recovery-tests/guided")
  Guided beginGuided(@PathVariable UUID id, Principal who) throws IOException {
    return guided.begin(id, who.getName());
  }

  /** Its program is gone: what comes back is recorded. */
  @PostMapping("/api/documents/{id}/recovery-tests/guided/end")
  RehearsalView endGuided(@PathVariable UUID id, Principal who) throws IOException {
    return RehearsalView.of(guided.end(id, who.getName()));
  }

  /** What is done unattended every so many days, now. */
  @PostMapping("/api/documents/{id}/recovery-tests/unattended")
  RehearsalView unattended(@PathVariable UUID id) throws IOException {
    return nightly
        .prove(id)
        .map(RehearsalView::of)
        .orElseThrow(
            () ->
                ProblemException.conflict(
                    "no-copy", "There is no copy of this document yet that could be tried."));
  }
}
