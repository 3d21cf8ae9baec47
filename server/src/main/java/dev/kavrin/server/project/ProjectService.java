package dev.kavrin.server.project;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.naming.Surroundings;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.FolderPattern;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.watch.Discovery;
import dev.kavrin.core.watch.RunPreview;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.folder.Folder;
import dev.kavrin.server.folder.FolderPresence;
import dev.kavrin.server.folder.FolderRole;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Settings;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;

/** Projects and their documents. */
@Service
public class ProjectService {
  /** How often the records are asked again before a person is told that they are away. */
  private static final int PATIENCE = 5;

  private final ProjectRows projects;
  private final DocumentRows documents;
  private final FolderService places;
  private final FolderPresence presence;
  private final Engine engine;
  private final JournalFollower follower;
  private final PathGuard guard;
  private final Disk disk;
  private final Settings settings;
  private final InstantSource clock;

  ProjectService(
      ProjectRows projects,
      DocumentRows documents,
      FolderService places,
      FolderPresence presence,
      Engine engine,
      JournalFollower follower,
      PathGuard guard,
      Disk disk,
      Settings settings,
      InstantSource clock) {
    this.projects = projects;
    this.documents = documents;
    this.places = places;
    this.presence = presence;
    this.engine = engine;
    this.follower = follower;
    this.guard = guard;
    this.disk = disk;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * A project with its plan as recorded.
   *
   * @param version rises with every change; sent back to change it
   */
  public record Project(
      UUID id,
      String name,
      String folder,
      List<String> rule,
      @Nullable SetRule sets,
      ProgramProfile program,
      Plan plan,
      Map<UUID, Plan> exceptions,
      String recovery,
      List<Recovery> recoveries,
      long version,
      @Nullable String changedBy,
      Instant changed) {

    public Plan planFor(UUID document) {
      return exceptions.getOrDefault(document, plan);
    }

    public boolean keepsIn(String folder) {
      return recoveries.stream().anyMatch(r -> r.path().equals(folder));
    }
  }

  /**
   * One of a project's recovery folders.
   *
   * @param here false while its drive is away
   * @param behind why it lacks something the others have, null if it lacks nothing
   * @param leaving true while its copies are being moved to the others
   */
  public record Recovery(
      String path, boolean here, @Nullable String behind, boolean leaving, int copies) {}

  /** What lies in a folder, before it becomes a project. */
  public record Look(
      List<String> documents,
      int backups,
      List<String> hidden,
      int unaddressable,
      int unreadable) {}

  public Look look(String folder, List<String> rule) {
    Path path = guard.folder(folder);
    Discovery.Found found = Discovery.look(disk, path, rule, null, ProgramProfile.UNKNOWN);
    return new Look(
        found.documents().stream().map(d -> RelativePath.of(path, d)).toList(),
        found.backups().size(),
        found.hidden().stream().map(h -> RelativePath.of(path, h)).toList(),
        found.unaddressable().size(),
        found.unreadable().size());
  }

  /** The project as the records have it; a moment of trouble with them is waited out. */
  Project followed(UUID id) {
    for (int tries = 0; tries < PATIENCE; tries++) {
      follower.follow();
      if (projects.findByUuid(id).isPresent()) {
        return byId(id);
      }
    }
    throw ProblemException.away(
        "The records cannot be reached right now. The project is kept in its backup folder and"
            + " shows here as soon as they can be.",
        null);
  }

  /** Copies and crash logs are looked for under allowed roots only. */
  void requireInside(ProgramProfile program, Path work) {
    for (FolderPattern folder : program.folders()) {
      try {
        guard.folderToMake(folder.fixed(work.resolve("document"), Surroundings.here()).toString());
      } catch (IllegalArgumentException unset) {
        throw ProblemException.badInput(
            "unset-variable", unset.getMessage() + ". Nothing was changed.");
      }
    }
  }

  /**
   * Changes plan and program profile.
   *
   * @param version as the person saw it
   * @throws ProblemException somebody changed it meanwhile
   */
  public Project change(UUID id, long version, Plan plan, ProgramProfile program, String who)
      throws IOException {
    requireInside(program, Path.of(kept(id).project().folder()));
    return change(id, version, p -> p.with(program.askedBy(engine.clock().instant()), plan), who);
  }

  /**
   * Gives a document a plan of its own, or with null the project's again.
   *
   * @param version of the project, as the person saw it
   * @throws ProblemException somebody changed it meanwhile
   */
  public Project except(UUID document, long version, @Nullable Plan plan, String who)
      throws IOException {
    UUID id = document(document).project();
    return change(id, version, present -> present.except(document, plan), who);
  }

  /**
   * Says which files of a run belong together, or with null that documents are single files.
   *
   * @param version of the project, as the person saw it
   * @throws ProblemException somebody changed it meanwhile
   */
  public Project joinRuns(UUID id, long version, @Nullable SetRule sets, String who)
      throws IOException {
    return change(id, version, present -> present.joining(present.rule(), sets), who);
  }

  /** What a rule for runs would find in a project's folder now. */
  public RunPreview previewRuns(UUID id, SetRule sets) throws IOException {
    return RunPreview.of(
        disk, engine.inspector(), engine.clock(), Path.of(byId(id).folder()), sets);
  }

  /** Nobody else changes it between looking at its version and changing it. */
  private Project change(UUID id, long version, UnaryOperator<ProjectRecord> change, String who)
      throws IOException {
    Kept kept = kept(id);
    return engine
        .changes()
        .alone(
            id,
            () -> {
              follower.follow();
              Project present = byId(id);
              if (present.version() != version) {
                throw ProblemException.stale(
                    "The plan was changed meanwhile by "
                        + present.changedBy()
                        + ". Look at it again; nothing was changed now.");
              }
              engine.changes().change(kept, change.apply(kept.project()), who);
              follower.follow();
              return byId(id);
            });
  }

  /** All projects under watch that the records know already. */
  @Transactional(readOnly = true)
  public List<Kept> watched() {
    Set<UUID> recorded = projects.findAll().stream().map(p -> p.uuid).collect(Collectors.toSet());
    return engine.projects().stream().filter(k -> recorded.contains(k.project().id())).toList();
  }

  /** The project under watch. */
  public Kept kept(UUID id) {
    return engine
        .project(id)
        .orElseThrow(
            () -> {
              String name = byId(id).name();
              return ProblemException.away(
                  "The backup folder of " + name + " is away. Nothing was changed.", null);
            });
  }

  @Transactional(readOnly = true)
  public List<Project> all() {
    return projects.findAll().stream().map(this::seen).toList();
  }

  @Transactional(readOnly = true)
  public Project byId(UUID id) {
    return seen(row(id));
  }

  private ProjectRow row(UUID id) {
    return projects
        .findByUuid(id)
        .orElseThrow(() -> ProblemException.notFound("No such project: " + id + "."));
  }

  private Project seen(ProjectRow row) {
    return new Project(
        row.uuid,
        row.name,
        path(row.workPlaceId),
        ProjectRecords.MAPPER.readValue(row.rule, new TypeReference<List<String>>() {}),
        row.sets == null ? null : ProjectRecords.MAPPER.readValue(row.sets, SetRule.class),
        ProjectRecords.MAPPER.readValue(row.program, ProgramProfile.class),
        ProjectRecords.MAPPER.readValue(row.plan, Plan.class),
        ProjectRecords.MAPPER.readValue(row.exceptions, new TypeReference<Map<UUID, Plan>>() {}),
        path(row.recoveryPlaceId),
        recoveries(row),
        row.version,
        row.changedBy,
        row.changed);
  }

  private List<Recovery> recoveries(ProjectRow row) {
    Optional<Kept> kept = engine.project(row.uuid);
    List<String> also =
        ProjectRecords.MAPPER.readValue(row.also, new TypeReference<List<String>>() {});
    return Stream.concat(Stream.of(path(row.recoveryPlaceId)), also.stream())
        .map(
            path -> {
              Optional<BackupFolder> folder = kept.flatMap(k -> k.folders().at(Path.of(path)));
              return new Recovery(
                  path,
                  places.byPath(Path.of(path)).filter(presence::wasHere).isPresent(),
                  folder.map(f -> kept.get().folders().behind(f).orElse(null)).orElse(null),
                  path.equals(row.leaving),
                  folder.map(f -> copies(f, kept.get())).orElse(0));
            })
        .toList();
  }

  private static int copies(BackupFolder folder, Kept kept) {
    return kept.watch().watched().stream().mapToInt(d -> folder.history().captures(d).size()).sum();
  }

  /** Takes one more recovery folder into a project. */
  public Project addRecovery(UUID id, String recovery, String who) throws IOException {
    Kept kept = kept(id);
    Folder place = places.add(recovery, FolderRole.RECOVERY, kept.project().folder());
    if (place.role() != FolderRole.RECOVERY
        || kept.project().recoveries().contains(place.path().toString())) {
      throw ProblemException.conflict(
          "in-use", place.path() + " serves already. Nothing was changed.");
    }
    engine.changes().addRecovery(kept, engine.openFolder(place.path(), place.uuid()), who);
    follower.follow();
    return byId(id);
  }

  /** Begins to move a project's copies out of one of its folders. */
  public Project leave(UUID id, String recovery, String who) throws IOException {
    Kept kept = kept(id);
    if (!kept.project().recoveries().contains(recovery) || kept.project().recoveries().size() < 2) {
      throw ProblemException.badInput(
          "last-folder",
          recovery
              + " is the only backup folder. Add another first; the copies are moved there."
              + " Nothing was changed.");
    }
    engine.changes().leave(kept, recovery, who);
    follower.follow();
    return byId(id);
  }

  /** Stops moving out; what was moved stays moved, and comes back by catching up. */
  public Project stay(UUID id, String who) throws IOException {
    engine.changes().leave(kept(id), null, who);
    follower.follow();
    return byId(id);
  }

  private String path(Long place) {
    return places.byKey(place).map(p -> p.path().toString()).orElse("");
  }

  @Transactional(readOnly = true)
  public List<Document> documents(UUID project) {
    ProjectRow row = row(project);
    return documents.findByProjectIdOrderByRelPath(row.id).stream().map(d -> seen(d, row)).toList();
  }

  @Transactional(readOnly = true)
  public Document document(UUID id) {
    DocumentRow d =
        documents
            .findByUuid(id)
            .orElseThrow(() -> ProblemException.notFound("No such document: " + id + "."));
    return seen(d, projects.findById(d.projectId).orElseThrow());
  }

  /** By its key in the records. */
  @Transactional(readOnly = true)
  public Document document(long key) {
    DocumentRow d = documents.findById(key).orElseThrow();
    return seen(d, projects.findById(d.projectId).orElseThrow());
  }

  private Document seen(DocumentRow d, ProjectRow p) {
    return AllDocuments.seen(d, p, Path.of(path(p.workPlaceId)));
  }

  /** Key of a project in the records. */
  @Transactional(readOnly = true)
  public long key(UUID project) {
    return row(project).id;
  }
}
