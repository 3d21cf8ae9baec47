package dev.kavrin.server.job;

import jakarta.validation.constraints.DecimalMax;
import jakarta.validation.constraints.DecimalMin;
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

  JobController(JobService jobs) {
    this.jobs = jobs;
  }

  /** The newest first. */
  @GetMapping("/api/jobs")
  List<Job> all() {
    return jobs.newest();
  }

  /**
   * @param wait for its end, at most so many seconds
   */
  @GetMapping("/api/jobs/{id}")
  Job one(
      @PathVariable UUID id,
      @RequestParam(defaultValue = "0") @DecimalMin("0") @DecimalMax("20") int wait) {
    return jobs.await(id, Duration.ofSeconds(wait));
  }

  /** Cancels a job; it ends where all it did is whole. */
  @DeleteMapping("/api/jobs/{id}")
  Job cancel(@PathVariable UUID id) {
    return jobs.cancel(id);
  }
}
