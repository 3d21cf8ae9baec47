package dev.kavrin.server.recoverytest;

import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.recoverytest.FailureMode;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.recoverytest.RecoveryTestController.RehearsalView;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Recovery tests as jobs; they play on copies, so one that was cut off is just begun again. */
@Service
class RecoveryTestJobs implements JobKinds {
  private final JobService jobs;
  private final JobKind<Wanted> testing;

  /** A recovery test that is to be. */
  record Wanted(UUID document, FailureMode way) {}

  RecoveryTestJobs(JobService jobs, RecoveryTestService tests) {
    this.jobs = jobs;
    this.testing =
        JobKind.repeatable(
            "recovery-test",
            Lane.ASKED,
            Wanted.class,
            (r, job) -> RehearsalView.of(tests.drill(r.document(), r.way(), job.person())));
  }

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(testing);
  }

  Job begin(UUID document, FailureMode way, String who) {
    return jobs.begin(testing, document.toString(), new Wanted(document, way), who);
  }
}
