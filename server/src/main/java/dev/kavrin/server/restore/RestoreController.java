package dev.kavrin.server.restore;

import dev.kavrin.core.restore.RestoreMode;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.restore.RestoreService.LayoutPreview;
import dev.kavrin.server.restore.RestoreService.Preview;
import dev.kavrin.server.restore.RestoreService.ReceiptView;
import dev.kavrin.server.restore.TrialCommand.CommandView;
import dev.kavrin.server.restore.TrialCopies.Standing;
import dev.kavrin.server.restore.TrialCopies.TrialView;
import dev.kavrin.server.version.VersionFiles;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.List;
import java.util.UUID;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
class RestoreController {
  private final RestoreService restores;
  private final RestoreJobs jobs;
  private final TrialCopies trials;
  private final TrialCommand commands;
  private final VersionFiles files;

  RestoreController(
      RestoreService restores,
      RestoreJobs jobs,
      TrialCopies trials,
      TrialCommand commands,
      VersionFiles files) {
    this.jobs = jobs;
    this.restores = restores;
    this.trials = trials;
    this.commands = commands;
    this.files = files;
  }

  record TrialRequest(@NotBlank String state) {}

  /** Lays a state out, to be opened in a person's own program; it may be read only. */
  @PostMapping("/api/documents/{id}/trials")
  TrialView trial(@PathVariable UUID id, @Valid @RequestBody TrialRequest r) throws IOException {
    return trials.layOut(id, r.state());
  }

  record CommandRequest(@NotBlank String state, @NotBlank @Size(max = 4000) String command) {}

  /** Runs a person's own command on a copy of a state in a scratch folder; keeps how it ended. */
  @PostMapping("/api/documents/{id}/trials/command")
  CommandView command(@PathVariable UUID id, @Valid @RequestBody CommandRequest r, Principal who)
      throws IOException {
    return commands.run(id, r.state(), r.command(), who.getName());
  }

  /** Trial copies that stand in the recovery folder of a document's project, and their bytes. */
  @GetMapping("/api/documents/{id}/trials")
  Standing standingTrials(@PathVariable UUID id) throws IOException {
    return trials.standing(id);
  }

  /** Clears them away. */
  @DeleteMapping("/api/documents/{id}/trials")
  Standing clearTrials(@PathVariable UUID id) throws IOException {
    return trials.clear(id);
  }

  /**
   * The file of a state, to be taken elsewhere. May be asked for in ranges (RFC 9110, section 14);
   * its entity tag is what it holds.
   */
  @GetMapping("/api/documents/{id}/versions/{state}/file")
  @ApiResponse(responseCode = "200", content = @Content(mediaType = "application/octet-stream"))
  ResponseEntity<Resource> file(@PathVariable UUID id, @PathVariable String state) {
    VersionFiles.Side side = files.side(id, state);
    return ResponseEntity.ok()
        .eTag(side.content())
        .cacheControl(CacheControl.noCache().cachePrivate())
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(side.name(), StandardCharsets.UTF_8)
                .build()
                .toString())
        .contentType(MediaType.APPLICATION_OCTET_STREAM)
        .body(new FileSystemResource(side.file()));
  }

  /**
   * @param of the document whose state it is, null for the same
   * @param folder where it goes if it goes elsewhere, else null
   */
  record PreviewRequest(
      @Nullable UUID of,
      @NotBlank String state,
      @NotNull RestoreMode mode,
      @Nullable String folder) {}

  /**
   * @param of the document whose state it is, null for the same
   * @param folder where it goes if it goes elsewhere, else null
   */
  record RestoreRequest(
      @Nullable UUID of,
      @NotBlank String state,
      @NotNull RestoreMode mode,
      @Nullable String folder,
      @NotBlank String digest) {}

  /**
   * @param mode NEXT or BRANCH
   */
  record GoOnRequest(@NotNull RestoreMode mode) {}

  /** Copies the live file to the next number of its chain, or to a trial beside it. */
  @PostMapping("/api/documents/{id}/go-on")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job goOnAs(@PathVariable UUID id, @Valid @RequestBody GoOnRequest r, Principal who) {
    if (r.mode() != RestoreMode.NEXT && r.mode() != RestoreMode.BRANCH) {
      throw new IllegalArgumentException("To go on takes the next number or a branch");
    }
    return jobs.begin(new RestoreJobs.GoOn(id, r.mode()), who.getName());
  }

  @PostMapping("/api/documents/{id}/restores/preview")
  Preview preview(@PathVariable UUID id, @Valid @RequestBody PreviewRequest r) throws IOException {
    return restores.preview(id, r.of(), r.state(), r.mode(), r.folder());
  }

  /** Begins to restore what was previewed; the job's result is the receipt. */
  @PostMapping("/api/documents/{id}/restores")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job restore(@PathVariable UUID id, @Valid @RequestBody RestoreRequest r, Principal who) {
    return jobs.begin(
        new RestoreJobs.Restore(id, r.of(), r.state(), r.mode(), r.folder(), r.digest()),
        who.getName());
  }

  record StepRequest(@NotBlank String state) {}

  record LayOutRequest(@NotBlank String state, @NotBlank String digest) {}

  @PostMapping("/api/documents/{id}/layouts/preview")
  LayoutPreview previewLayout(@PathVariable UUID id, @Valid @RequestBody StepRequest r)
      throws IOException {
    return restores.previewLayout(id, r.state());
  }

  /** Lays the files of a step out in a folder of their own. */
  @PostMapping("/api/documents/{id}/layouts")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job layOut(@PathVariable UUID id, @Valid @RequestBody LayOutRequest r, Principal who) {
    return jobs.begin(new RestoreJobs.LayOut(id, r.state(), r.digest()), who.getName());
  }

  @GetMapping("/api/documents/{id}/restores")
  List<ReceiptView> all(@PathVariable UUID id) {
    return restores.all(id);
  }

  /** Begins to take a restore back; the job's result is the receipt. */
  @PostMapping("/api/restores/{id}/undo")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job undo(@PathVariable UUID id, Principal who) {
    return jobs.undo(id, who.getName());
  }
}
