package dev.kavrin.server.restore;

import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.restore.GroupRestores.Wish;
import dev.kavrin.server.restore.RestoreService.ReceiptView;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;

/**
 * Restores and what takes them back, as jobs. Each is one operation in the journal: cut off by a
 * stop it was done whole or not at all, and a person looks before anything is done again.
 */
@Service
class RestoreJobs implements JobKinds {
  private final JobService jobs;
  private final JobKind<Restore> restoring;
  private final JobKind<GoOn> goingOn;
  private final JobKind<LayOut> layingOut;
  private final JobKind<Parts> bringing;
  private final JobKind<Group> together;
  private final JobKind<Undo> undoing;
  private final JobKind<Undo> undoingTogether;

  /** As asked for; see {@link RestoreController}. */
  record Restore(
      UUID document,
      @Nullable UUID of,
      String state,
      RestoreMode mode,
      @Nullable String folder,
      String digest) {}

  record GoOn(UUID document, RestoreMode mode) {}

  record LayOut(UUID document, String state, String digest) {}

  record Parts(UUID document, UUID prepared, RestoreMode mode) {}

  record Group(UUID project, String what, List<Wish> wishes, String digest) {}

  record Undo(UUID id) {}

  RestoreJobs(JobService jobs, RestoreService restores, PartRestores parts, GroupRestores groups) {
    this.jobs = jobs;
    restoring = kind("restore", Restore.class, (r, job) -> restored(restores, r, job.person()));
    goingOn =
        kind("go-on", GoOn.class, (r, job) -> restores.goOnAs(r.document, r.mode, job.person()));
    layingOut =
        kind(
            "lay-out",
            LayOut.class,
            (r, job) -> restores.layOut(r.document, r.state, r.digest, job.person()));
    bringing =
        kind(
            "restore-parts",
            Parts.class,
            (r, job) -> parts.restore(r.document, r.prepared, r.mode, job.person()));
    together =
        kind(
            "restore-several",
            Group.class,
            (r, job) -> groups.restore(r.project, r.what, r.wishes, r.digest, job.person()));
    undoing = kind("undo", Undo.class, (r, job) -> restores.undo(r.id, job.person()));
    undoingTogether = kind("undo-several", Undo.class, (r, job) -> groups.undo(r.id, job.person()));
  }

  private static <R> JobKind<R> kind(String name, Class<R> request, JobKind.Work<R> work) {
    return JobKind.once(name, Lane.RESTORE, request, work);
  }

  private static ReceiptView restored(RestoreService restores, Restore r, String who)
      throws IOException {
    return restores.restore(r.document, r.of, r.state, r.mode, r.folder, r.digest, who);
  }

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(restoring, goingOn, layingOut, bringing, together, undoing, undoingTogether);
  }

  Job begin(Restore wanted, String who) {
    return jobs.begin(restoring, wanted.document().toString(), wanted, who);
  }

  Job begin(GoOn wanted, String who) {
    return jobs.begin(goingOn, wanted.document().toString(), wanted, who);
  }

  Job begin(LayOut wanted, String who) {
    return jobs.begin(layingOut, wanted.document().toString(), wanted, who);
  }

  Job begin(Parts wanted, String who) {
    return jobs.begin(bringing, wanted.document().toString(), wanted, who);
  }

  Job begin(Group wanted, String who) {
    return jobs.begin(together, wanted.project().toString(), wanted, who);
  }

  Job undo(UUID receipt, String who) {
    return jobs.begin(undoing, receipt.toString(), new Undo(receipt), who);
  }

  Job undoSeveral(UUID group, String who) {
    return jobs.begin(undoingTogether, group.toString(), new Undo(group), who);
  }
}
