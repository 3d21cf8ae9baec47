package dev.kavrin.server.restore;

import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.restore.GroupRestores.GroupPreview;
import dev.kavrin.server.restore.GroupRestores.GroupView;
import dev.kavrin.server.restore.GroupRestores.Wish;
import dev.kavrin.server.restore.GroupTable.AsOfTable;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Documents that go back together. */
@RestController
class GroupController {
  private final GroupTable table;
  private final GroupRestores groups;
  private final RestoreJobs jobs;
  private final InstantSource clock;

  GroupController(GroupTable table, GroupRestores groups, RestoreJobs jobs, InstantSource clock) {
    this.jobs = jobs;
    this.table = table;
    this.groups = groups;
    this.clock = clock;
  }

  /**
   * The decision table of a project.
   *
   * @param at as of when; now if nothing is said
   * @param incident then its documents, each with what is recommended for it
   */
  @GetMapping("/api/projects/{id}/as-of")
  AsOfTable asOf(
      @PathVariable UUID id,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(required = false) @Nullable UUID incident) {
    return incident == null
        ? table.asOf(id, at == null ? clock.instant() : at)
        : table.ofIncident(id, incident);
  }

  /** A state with what it leaned on when it was made. */
  @GetMapping("/api/documents/{id}/versions/{state}/as-of")
  AsOfTable withLinks(@PathVariable UUID id, @PathVariable String state) {
    return table.withLinks(id, state);
  }

  record WishRequest(@NotNull UUID document, @NotBlank String state, @NotNull RestoreMode mode) {
    Wish wish() {
      return new Wish(document, state, mode);
    }
  }

  record GroupPreviewRequest(@NotEmpty @Size(max = 2000) List<@Valid WishRequest> wishes) {}

  @PostMapping("/api/projects/{id}/group-restores/preview")
  GroupPreview previewGroup(@PathVariable UUID id, @Valid @RequestBody GroupPreviewRequest r)
      throws IOException {
    return groups.preview(id, wishes(r.wishes()));
  }

  /**
   * @param what in words, for the record
   * @param digest of the preview
   */
  record GroupRequest(
      @NotBlank @Size(max = 200) String what,
      @NotEmpty @Size(max = 2000) List<@Valid WishRequest> wishes,
      @NotBlank String digest) {}

  /** Begins to restore several as one; the job's result is what came of it. */
  @PostMapping("/api/projects/{id}/group-restores")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job restoreGroup(@PathVariable UUID id, @Valid @RequestBody GroupRequest r, Principal who) {
    return jobs.begin(
        new RestoreJobs.Group(id, r.what(), wishes(r.wishes()), r.digest()), who.getName());
  }

  private static List<Wish> wishes(List<WishRequest> requests) {
    return requests.stream().map(WishRequest::wish).toList();
  }

  @GetMapping("/api/projects/{id}/group-restores")
  List<GroupView> allGroups(@PathVariable UUID id) {
    return groups.all(id);
  }

  @PostMapping("/api/group-restores/{id}/undo")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job undoGroup(@PathVariable UUID id, Principal who) {
    return jobs.undoSeveral(id, who.getName());
  }
}
