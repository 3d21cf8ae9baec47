package dev.kavrin.server.offsite;

import dev.kavrin.server.job.Job;
import dev.kavrin.server.offsite.StoredVersions.StoredVersion;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.security.Principal;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What only stores have of a document. */
@RestController
class StoredVersionController {
  private final StoredVersions stored;

  StoredVersionController(StoredVersions stored) {
    this.stored = stored;
  }

  /** Which version is to come back among the others. */
  record FetchRequest(@NotNull UUID store, @NotBlank String state) {}

  @GetMapping("/api/documents/{id}/stored-versions")
  List<StoredVersion> storedVersions(@PathVariable UUID id) {
    return stored.of(id);
  }

  /** Begins to fetch one; the job's result says which version it is. */
  @PostMapping("/api/documents/{id}/stored-versions/fetch")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job fetchStoredVersion(@PathVariable UUID id, @Valid @RequestBody FetchRequest r, Principal who) {
    return stored.begin(new StoredVersions.Wanted(id, r.store(), r.state()), who.getName());
  }
}
