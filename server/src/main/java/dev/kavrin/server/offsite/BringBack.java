package dev.kavrin.server.offsite;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.journal.StoreSet;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.offsite.OffsiteRecovery;
import dev.kavrin.core.offsite.Store;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.core.restore.RestorePlan;
import dev.kavrin.core.restore.Restorer;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.job.JobKind;
import dev.kavrin.server.job.JobKinds;
import dev.kavrin.server.job.JobRun;
import dev.kavrin.server.job.JobService;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Brings a project back from a store alone: its backups first, then its files. */
@Service
class BringBack implements JobKinds {
  private final OffsiteService offsite;
  private final FolderService folders;
  private final Engine engine;
  private final PathGuard guard;
  private final JobService jobs;
  private final InstantSource clock;
  private final JobKind<Wanted> bringing =
      JobKind.repeatable("bring-back-from-store", Lane.RESTORE, Wanted.class, this::bring);

  BringBack(
      OffsiteService offsite,
      FolderService folders,
      Engine engine,
      PathGuard guard,
      JobService jobs,
      InstantSource clock) {
    this.offsite = offsite;
    this.folders = folders;
    this.engine = engine;
    this.guard = guard;
    this.jobs = jobs;
    this.clock = clock;
  }

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(bringing);
  }

  /**
   * What is to come back, and where to.
   *
   * @param begin what all names of the project begin with in the store
   * @param work folder for its files; made if it is absent
   * @param recovery folder for its backups; made if it is absent
   * @param until leaves out newer work; null for all
   */
  record Wanted(
      StoreAddress store, String begin, String work, String recovery, @Nullable Instant until) {}

  /**
   * What came back.
   *
   * @param backups brought into the backup folder now
   * @param files written into the work folder
   * @param left documents whose file stood already, which was left alone
   * @param failed what could not be brought, in words
   */
  record CameBack(
      UUID project,
      int backups,
      long bytes,
      List<String> files,
      List<String> left,
      List<String> failed) {}

  Job begin(Wanted wanted, String who) {
    guard.target(wanted.work());
    guard.folderToMake(wanted.recovery());
    return jobs.begin(bringing, wanted.begin(), wanted, who);
  }

  private CameBack bring(Wanted wanted, JobRun job) throws IOException {
    job.at(0, "Asking the store what it has");
    try (Store store = engine.stores().open(wanted.store())) {
      OffsiteRecovery.Found found =
          OffsiteRecovery.projects(store).stream()
              .filter(f -> f.begin().equals(wanted.begin()))
              .findFirst()
              .orElseThrow(
                  () ->
                      ProblemException.notFound(
                          "The store has no project '" + wanted.begin() + "'. Nothing was made."));
      Path work = guard.target(wanted.work());
      requireNotHere(found.project(), work);
      engine.disk().makeFolders(work);
      Folder keeps = folders.add(wanted.recovery(), FolderRole.RECOVERY, work.toString());
      folders.add(work.toString(), FolderRole.WORK, null);
      BackupFolder to = engine.openFolder(keeps.path(), keeps.uuid());
      ProjectRecord as = found.project().movedTo(work.toString(), keeps.path().toString());
      OffsiteRecovery.Outcome outcome = fetch(store, found, to, as, wanted, job);
      List<String> failed = new ArrayList<>(outcome.failed());
      List<String> files = new ArrayList<>();
      List<String> left = new ArrayList<>();
      restore(to, as, job, files, left, failed);
      sendThereAgain(store, to, as, wanted, job.person());
      engine.adopt(to, as, job.person());
      return new CameBack(
          as.id(),
          outcome.brought().size(),
          outcome.brought().stream().mapToLong(b -> b.content().length()).sum(),
          files,
          left,
          failed);
    }
  }

  private void requireNotHere(ProjectRecord project, Path work) {
    engine
        .project(project.id())
        .filter(k -> !k.project().folder().equals(work.toString()))
        .ifPresent(
            k -> {
              throw ProblemException.conflict(
                  "already-a-project",
                  project.name()
                      + " is watched on this machine already, in "
                      + k.project().folder()
                      + ". Nothing was made.");
            });
  }

  private OffsiteRecovery.Outcome fetch(
      Store store,
      OffsiteRecovery.Found found,
      BackupFolder to,
      ProjectRecord as,
      Wanted wanted,
      JobRun job)
      throws IOException {
    long all = Math.max(1, found.bytes());
    long[] done = {0};
    return new OffsiteRecovery(engine.disk(), engine.publisher(), clock)
        .bring(
            store,
            wanted.begin(),
            to,
            as,
            wanted.until(),
            copy -> {
              job.at(
                  0.9 * done[0] / all,
                  String.format(
                      Locale.ROOT,
                      "Bringing back %s, %.1f of %.1f MB",
                      Path.of(copy.path()).getFileName(),
                      done[0] / 1e6,
                      all / 1e6));
              done[0] += copy.content().length();
            });
  }

  /** The newest whole version of each document; a file that stands is left alone. */
  private void restore(
      BackupFolder to,
      ProjectRecord as,
      JobRun job,
      List<String> files,
      List<String> left,
      List<String> failed)
      throws IOException {
    Restorer restorer =
        new Restorer(engine.disk(), engine.publisher(), engine.inspector(), to, clock);
    for (DocumentSet document : to.history().documents(as.id())) {
      List<BackupRecord> whole = new KeepInputs(to.history(), document.id()).protecting();
      if (whole.isEmpty()) {
        failed.add(document.path() + ": no whole version of it came back");
      }
      for (BackupRecord backup : whole) {
        Path live = Path.of(as.folder()).resolve(path(document, backup));
        job.at(0.95, "Writing " + live);
        if (engine.disk().facts(live).isPresent()) {
          if (!files.contains(live.toString())) {
            left.add(live.toString());
          }
          continue;
        }
        engine.disk().makeFolders(live.getParent());
        RestorePlan plan =
            restorer
                .planner()
                .plan(
                    RestoreMode.REPLACE,
                    to.absolute(backup.path()),
                    live,
                    backup.workTo(),
                    ZoneId.of(as.zone()));
        restorer.restore(new Restorer.Order(plan, document.id(), backup.kind()), job.person());
        files.add(live.toString());
      }
    }
  }

  /** Files of a run lie where they lay; a document's own file where the document is. */
  private static String path(DocumentSet document, BackupRecord backup) {
    if (backup.role() == null) {
      return document.path();
    }
    Path relative = Path.of(backup.path());
    Path name = Path.of(backup.source()).getFileName();
    return relative.getNameCount() <= 2
        ? name.toString()
        : relative.subpath(1, relative.getNameCount() - 1).resolve(name).toString();
  }

  private void sendThereAgain(
      Store store, BackupFolder to, ProjectRecord as, Wanted wanted, String who)
      throws IOException {
    UUID mark = offsite.mark(store, wanted.store()).id();
    OffsiteService.Use use =
        new OffsiteService.Use(
            wanted.store().name().isEmpty() ? "Store" : wanted.store().name(),
            null,
            null,
            null,
            0,
            false,
            wanted.store().readEvery());
    StoreAddress again = OffsiteService.used(wanted.store(), mark, wanted.begin(), use);
    to.record(new StoreSet(clock.instant(), as.id(), who, again, true));
  }
}
