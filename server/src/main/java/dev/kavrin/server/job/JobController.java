package dev.kavrin.server.job;

import dev.kavrin.server.people.Access;
import dev.kavrin.server.people.Role;
import dev.kavrin.server.platform.ProblemException;
import jakarta.validation.constraints.DecimalMax;
import jakarta.validation.constraints.DecimalMin;
import java.security.Principal;
import java.time.Duration;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
class JobController {
  private final JobService jobs;
  private final Access access;

  JobController(JobService jobs, Access access) {
    this.jobs = jobs;
    this.access = access;
  }

  /** The newest first. */
  @GetMapping("/api/jobs")
  List<Job> all(Principal who) {
    return jobs.newest().stream().filter(j -> sees(j, who)).toList();
  }

  /**
   * @param wait for its end, at most so many seconds
   */
  @GetMapping("/api/jobs/{id}")
  Job one(
      @PathVariable UUID id,
      @RequestParam(defaultValue = "0") @DecimalMin("0") @DecimalMax("20") int wait,
      Principal who) {
    check(id, who);
    return jobs.await(id, Duration.ofSeconds(wait));
  }

  /** Cancels a job; it ends where all it did is whole. */
  @DeleteMapping("/api/jobs/{id}")
  Job cancel(@PathVariable UUID id, Principal who) {
    check(id, who);
    if (!isOwn(jobs.byId(id), who) && !access.current().mayEverywhere(Role.RESTORE)) {
      throw ProblemException.forbidden(
          "no-right", "Others' jobs are cancelled by those who may restore everywhere.");
    }
    return jobs.cancel(id);
  }

  /** One's own, or all for who sees everything. */
  private boolean sees(Job job, Principal who) {
    return isOwn(job, who) || access.seesEverything();
  }

  private static boolean isOwn(Job job, Principal who) {
    return job.person().equals(who.getName());
  }

  private void check(UUID id, Principal who) {
    if (!sees(jobs.byId(id), who)) {
      throw ProblemException.notFound("There is no such job.");
    }
  }
}
