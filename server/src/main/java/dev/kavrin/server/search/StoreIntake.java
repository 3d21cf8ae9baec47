package dev.kavrin.server.search;

import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.units.Span;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.StrayService;
import dev.kavrin.server.version.VersionService;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Takes what another tool left in a store in as a version; there it stays as it is. */
@Service
class StoreIntake implements JobKinds {
  private final StrayService strays;
  private final StoreFiles files;
  private final ProjectService projects;
  private final VersionService versions;
  private final JobService jobs;
  private final JobKind<Wanted> taking =
      JobKind.repeatable("take-in-from-store", Lane.RESTORE, Wanted.class, this::takeIn);

  StoreIntake(
      StrayService strays,
      StoreFiles files,
      ProjectService projects,
      VersionService versions,
      JobService jobs) {
    this.strays = strays;
    this.files = files;
    this.projects = projects;
    this.versions = versions;
    this.jobs = jobs;
  }

  /** A stray that is to be taken in. */
  record Wanted(UUID stray) {}

  /** The version it became. */
  record TakenIn(UUID document, String state) {}

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(taking);
  }

  Job begin(UUID stray, String who) {
    return jobs.begin(taking, strays.inStore(stray).path(), new Wanted(stray), who);
  }

  private TakenIn takeIn(Wanted wanted, JobRun job) throws IOException {
    StrayService.InStore stray = strays.inStore(wanted.stray());
    job.at(0, "Fetching " + stray.path());
    String state =
        files.fetched(
            files.at(stray.path()),
            (file, content) -> {
              if (!content.equals(stray.content())) {
                throw ProblemException.conflict(
                    "changed-meanwhile",
                    stray.path() + " is not what was found there. Nothing was taken in.");
              }
              return taken(stray, file);
            });
    strays.decide(wanted.stray(), true, job.person());
    versions.look(stray.document());
    return new TakenIn(stray.document(), state);
  }

  private String taken(StrayService.InStore stray, Path file) throws IOException {
    Document document = projects.document(stray.document());
    Kept kept = projects.kept(document.project());
    return kept.watch()
        .takeIn(
            new BackupOrder(
                kept.project(),
                document.id(),
                document.path(),
                file,
                Path.of(stray.path()),
                CopyKind.STRAY,
                CopyKind.CAPTURE,
                Span.at(stray.modified()),
                "from a store",
                null,
                null,
                BackupOrder.How.ANY_HEALTH))
        .capture()
        .state();
  }
}
