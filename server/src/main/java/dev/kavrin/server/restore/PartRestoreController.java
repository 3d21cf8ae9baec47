package dev.kavrin.server.restore;

import dev.kavrin.core.content.PartWriter.Brought;
import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.restore.PartRestores.Picked;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Parts of older states, brought into the file of today. */
@RestController
class PartRestoreController {
  private final PartRestores restores;
  private final RestoreJobs jobs;

  PartRestoreController(PartRestores restores, RestoreJobs jobs) {
    this.jobs = jobs;
    this.restores = restores;
  }

  /**
   * @param of the document whose state it is, null for the same
   * @param parts as they are called in that state
   */
  record PartsPicked(
      @Nullable UUID of,
      @NotBlank String state,
      @NotEmpty @Size(max = 500) List<@NotBlank String> parts) {}

  record PartsRequest(@NotEmpty @Size(max = 50) @Valid List<PartsPicked> picks) {}

  /**
   * What was written to the side; nothing is touched yet.
   *
   * @param id to put it in its place by
   * @param untouched how many other parts are equal to what they were, read back
   * @param unequal why it is not proven, in words; empty if it is
   */
  record PartsPreview(UUID id, List<Brought> brought, int untouched, List<String> unequal) {}

  record PartsRestoreRequest(@NotNull UUID id, @NotNull RestoreMode mode) {}

  @PostMapping("/api/documents/{id}/part-restores/preview")
  PartsPreview preview(@PathVariable UUID id, @Valid @RequestBody PartsRequest r)
      throws IOException {
    PartRestores.Prepared made =
        restores.prepare(
            id, r.picks().stream().map(p -> new Picked(p.of(), p.state(), p.parts())).toList());
    return new PartsPreview(
        made.id(), made.written().brought(), made.written().untouched(), made.written().unequal());
  }

  @PostMapping("/api/documents/{id}/part-restores")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job restore(@PathVariable UUID id, @Valid @RequestBody PartsRestoreRequest r, Principal who) {
    return jobs.begin(new RestoreJobs.Parts(id, r.id(), r.mode()), who.getName());
  }
}
