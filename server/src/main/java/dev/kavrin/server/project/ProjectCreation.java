package dev.kavrin.server.project;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
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
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.project.ProjectService.Project;
import java.io.IOException;
import java.nio.file.Path;
import java.text.Normalizer;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import org.springframework.stereotype.Service;

/** Makes projects: as jobs, for looking through a large folder on a busy disk takes its time. */
@Service
public class ProjectCreation implements JobKinds {
  private final ProjectService projects;
  private final FolderService folders;
  private final Engine engine;
  private final PathGuard guard;
  private final Disk disk;
  private final Settings settings;
  private final JobService jobs;
  private final JobKind<Wanted> creating =
      JobKind.repeatable("create-project", Lane.ASKED, Wanted.class, this::create);

  ProjectCreation(
      ProjectService projects,
      FolderService folders,
      Engine engine,
      PathGuard guard,
      Disk disk,
      Settings settings,
      JobService jobs) {
    this.projects = projects;
    this.folders = folders;
    this.engine = engine;
    this.guard = guard;
    this.disk = disk;
    this.settings = settings;
    this.jobs = jobs;
  }

  @Override
  public List<JobKind<?>> kinds() {
    return List.of(creating);
  }

  /** A project that is to be. */
  public record Wanted(
      String name,
      String folder,
      List<String> rule,
      ProgramProfile program,
      String recovery,
      Plan plan) {}

  /** Begins to make a project; what can be told at once is told at once. */
  Job begin(Wanted wanted, String who) {
    Path work = guard.folder(wanted.folder());
    projects.requireInside(wanted.program(), work);
    requireNone(work);
    return jobs.begin(creating, work.toString(), wanted, who);
  }

  private void requireNone(Path work) {
    if (engine.projects().stream().anyMatch(k -> k.project().folder().equals(work.toString()))) {
      throw ProblemException.conflict("already-a-project", work + " is a project already.");
    }
  }

  /** The project has the job's id: taken up after a stop, it is found made. */
  private Project create(Wanted wanted, JobRun job) throws IOException {
    UUID id = job.id();
    if (engine.project(id).isEmpty()) {
      make(id, wanted, job);
    }
    return projects.followed(id);
  }

  private void make(UUID id, Wanted wanted, JobRun job) throws IOException {
    Path work = guard.folder(wanted.folder());
    projects.requireInside(wanted.program(), work);
    requireNone(work);
    job.at(0, "Looking at both folders");
    Folder keeps = folders.add(wanted.recovery(), FolderRole.RECOVERY, wanted.folder());
    if (keeps.role() != FolderRole.RECOVERY) {
      throw ProblemException.conflict(
          "other-role", keeps.path() + " already serves as another kind of folder.");
    }
    folders.add(wanted.folder(), FolderRole.WORK, null);
    BackupFolder open = engine.openFolder(keeps.path(), keeps.uuid());
    ProjectRecord record =
        ProjectRecord.of(
            id,
            wanted.name(),
            slug(wanted.name()),
            work.toString(),
            wanted.rule(),
            wanted.program(),
            wanted.plan(),
            List.of(keeps.path().toString()),
            settings.zone().getId());
    job.at(0.3, "Looking for documents in " + work);
    engine.adopt(open, record, job.person());
  }

  /** Takes in a backup folder that holds backups already: its projects come from its journal. */
  public List<Project> adoptFolder(String recovery) throws IOException {
    Path path = guard.folder(recovery);
    if (disk.facts(BackupFolder.journalFile(path)).isEmpty()) {
      throw ProblemException.badInput(
          "no-journal", path + " holds no Kavrin journal. Nothing was changed.");
    }
    Folder place = folders.add(recovery, FolderRole.RECOVERY, null);
    BackupFolder open = engine.openFolder(place.path(), place.uuid());
    for (ProjectRecord project : open.history().projects()) {
      folders.ensure(guard.folder(project.folder()), FolderRole.WORK);
    }
    return open.history().projects().stream().map(p -> projects.followed(p.id())).toList();
  }

  private static String slug(String name) {
    String plain =
        Normalizer.normalize(name, Normalizer.Form.NFD)
            .replaceAll("\\p{M}", "")
            .toLowerCase(Locale.ROOT)
            .replaceAll("[^a-z0-9]+", "-")
            .replaceAll("^-|-$", "");
    return plain.isEmpty() ? "project" : plain.substring(0, Math.min(60, plain.length()));
  }
}
