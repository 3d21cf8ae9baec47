package dev.kavrin.server.project;

import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.version.SetRule;
import dev.kavrin.core.watch.RunPreview;
import dev.kavrin.core.watch.Watch;
import dev.kavrin.server.backup.JournalFollower;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.people.Access;
import dev.kavrin.server.platform.IfMatch;
import dev.kavrin.server.project.ProjectService.Look;
import dev.kavrin.server.project.ProjectService.Project;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Duration;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
class ProjectController {
  private final ProjectService projects;
  private final ProjectCreation creation;
  private final Together together;
  private final JournalFollower follower;
  private final Access access;

  ProjectController(
      ProjectService projects,
      ProjectCreation creation,
      Together together,
      JournalFollower follower,
      Access access) {
    this.creation = creation;
    this.projects = projects;
    this.together = together;
    this.follower = follower;
    this.access = access;
  }

  record LookRequest(@NotBlank String folder, @NotEmpty List<@NotBlank String> rule) {}

  record CreateRequest(
      @NotBlank @Size(max = 120) String name,
      @NotBlank String folder,
      @NotEmpty List<@NotBlank String> rule,
      @Nullable ProgramProfile program,
      @NotBlank String recovery,
      @NotNull Plan plan) {}

  record ChangeRequest(@NotNull Plan plan, @NotNull ProgramProfile program) {}

  /**
   * @param sets null if documents are single files
   */
  record RunsRequest(@Nullable SetRule sets) {}

  /** Says which files of a run belong together. */
  @PutMapping("/api/projects/{id}/runs")
  Project joinRuns(
      @PathVariable UUID id,
      @RequestHeader("If-Match") String version,
      @Valid @RequestBody RunsRequest r,
      Principal who)
      throws IOException {
    return projects.joinRuns(id, IfMatch.revision(version), r.sets(), who.getName());
  }

  record RunsPreviewRequest(@NotNull SetRule sets) {}

  /** What a rule for runs finds now; nothing is changed. */
  @PostMapping("/api/projects/{id}/runs/preview")
  RunPreview previewRuns(@PathVariable UUID id, @Valid @RequestBody RunsPreviewRequest r)
      throws IOException {
    return projects.previewRuns(id, r.sets());
  }

  record AdoptRequest(@NotBlank String recovery) {}

  record CopyRequest(@Size(max = 500) @Nullable String note) {}

  record CopyAnswer(String state, String path, boolean made, String verdict) {}

  @GetMapping("/api/projects")
  List<Project> all() {
    return projects.all().stream().filter(p -> access.sees(p.id())).toList();
  }

  @GetMapping("/api/projects/{id}")
  Project one(@PathVariable UUID id) {
    return projects.byId(id);
  }

  @PostMapping("/api/projects/look")
  Look look(@Valid @RequestBody LookRequest request) {
    return projects.look(request.folder(), request.rule());
  }

  /** Begins to make a project; the job's result is the project. */
  @PostMapping("/api/projects")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job create(@Valid @RequestBody CreateRequest r, Principal who) {
    ProgramProfile program = r.program() == null ? ProgramProfile.UNKNOWN : r.program();
    return creation.begin(
        new ProjectCreation.Wanted(r.name(), r.folder(), r.rule(), program, r.recovery(), r.plan()),
        who.getName());
  }

  @PostMapping("/api/projects/adopt")
  List<Project> adopt(@Valid @RequestBody AdoptRequest request) throws IOException {
    return creation.adoptFolder(request.recovery());
  }

  @PutMapping("/api/projects/{id}")
  Project change(
      @PathVariable UUID id,
      @RequestHeader("If-Match") String version,
      @Valid @RequestBody ChangeRequest r,
      Principal who)
      throws IOException {
    return projects.change(id, IfMatch.revision(version), r.plan(), r.program(), who.getName());
  }

  record RecoveryRequest(@NotBlank String recovery) {}

  @PostMapping("/api/projects/{id}/recoveries")
  Project addRecovery(@PathVariable UUID id, @Valid @RequestBody RecoveryRequest r, Principal who)
      throws IOException {
    return projects.addRecovery(id, r.recovery(), who.getName());
  }

  /** Moves the copies out of a recovery folder; it serves no longer once they are out. */
  @PostMapping("/api/projects/{id}/recoveries/leave")
  Project leave(@PathVariable UUID id, @Valid @RequestBody RecoveryRequest r, Principal who)
      throws IOException {
    return projects.leave(id, r.recovery(), who.getName());
  }

  @PostMapping("/api/projects/{id}/recoveries/stay")
  Project stay(@PathVariable UUID id, Principal who) throws IOException {
    return projects.stay(id, who.getName());
  }

  /** Copies the next write as soon as it rests. */
  @PostMapping("/api/documents/{id}/next-write")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @ApiResponse(responseCode = "204")
  void awaitNextWrite(@PathVariable UUID id, @Valid @RequestBody CopyRequest request)
      throws IOException {
    watchOf(id).awaitNextWrite(id, noteOf(request));
  }

  @DeleteMapping("/api/documents/{id}/next-write")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @ApiResponse(responseCode = "204")
  void stopAwaiting(@PathVariable UUID id) throws IOException {
    watchOf(id).stopAwaiting(id);
  }

  private Watch watchOf(UUID document) {
    return projects.kept(projects.document(document).project()).watch();
  }

  private static String noteOf(CopyRequest request) {
    return request.note() == null || request.note().isBlank() ? null : request.note().strip();
  }

  /**
   * @param plan null to follow the project's again
   */
  record ExceptionRequest(@Nullable Plan plan) {}

  /** Gives one document a plan of its own; the version is the project's. */
  @PutMapping("/api/documents/{id}/plan")
  Project except(
      @PathVariable UUID id,
      @RequestHeader("If-Match") String version,
      @Valid @RequestBody ExceptionRequest r,
      Principal who)
      throws IOException {
    return projects.except(id, IfMatch.revision(version), r.plan(), who.getName());
  }

  /** Copies what is on disk now. */
  @PostMapping("/api/documents/{id}/copies")
  CopyAnswer copyNow(@PathVariable UUID id, @Valid @RequestBody CopyRequest request)
      throws IOException {
    var result = watchOf(id).copyNow(id, noteOf(request));
    follower.follow();
    return new CopyAnswer(
        result.capture().state(),
        result.file().toString(),
        result.made(),
        result.capture().verdict().words());
  }

  /**
   * @param minutes documents written within that time count as open, too
   */
  record TogetherRequest(@Size(max = 500) @Nullable String note, @Min(0) @Max(10080) int minutes) {}

  /** Copies everything that is open, over all projects, as one moment. */
  @PostMapping("/api/moments")
  List<Together.Copied> copyOpen(@Valid @RequestBody TogetherRequest r, Principal who)
      throws IOException {
    String note = noteOf(new CopyRequest(r.note()));
    return together.copyOpen(Duration.ofMinutes(r.minutes()), note, who.getName());
  }

  /** How the live files of a project stand, from the watch itself. */
  @GetMapping("/api/projects/{id}/watch")
  List<Watch.Status> watch(@PathVariable UUID id) {
    return projects.kept(id).watch().status();
  }
}
