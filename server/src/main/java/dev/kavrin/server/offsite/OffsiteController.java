package dev.kavrin.server.offsite;

import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.offsite.Coverage.Rule;
import dev.kavrin.core.offsite.OffsiteRecovery;
import dev.kavrin.server.job.Job;
import dev.kavrin.server.offsite.OffsiteService.ElsewhereView;
import dev.kavrin.server.offsite.OffsiteService.Place;
import dev.kavrin.server.offsite.OffsiteService.Use;
import dev.kavrin.server.platform.ProblemException;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Copies elsewhere: where to, how it stands, and the way back. */
@RestController
class OffsiteController {
  private final OffsiteService offsite;
  private final BringBack bringBack;
  private final KeyFiles keys;
  private final StartedFrom startedFrom;

  OffsiteController(
      OffsiteService offsite, BringBack bringBack, KeyFiles keys, StartedFrom startedFrom) {
    this.offsite = offsite;
    this.bringBack = bringBack;
    this.keys = keys;
    this.startedFrom = startedFrom;
  }

  /**
   * @param folder where they lie
   * @param names of what lies there, keys and certificates; nothing of what they hold
   */
  record KeyNames(String folder, List<String> names) {}

  @GetMapping("/api/keys")
  KeyNames keys() throws IOException {
    return new KeyNames(keys.folder().toString(), keys.names());
  }

  record PlaceRequest(
      @NotBlank @Size(max = 1000) String address,
      @Nullable @Size(max = 1000) String service,
      @Nullable @Size(max = 100) String region,
      @Nullable @Size(max = 100) String key,
      @Nullable @Size(max = 100) String authority,
      @Nullable @Size(max = 100) String seal) {
    Place place() {
      return new Place(
          address.strip(),
          filled(service),
          filled(region),
          filled(key),
          filled(authority),
          filled(seal));
    }

    @Nullable
    private static String filled(@Nullable String text) {
      return text == null || text.isBlank() ? null : text.strip();
    }
  }

  record UseRequest(
      @NotBlank @Size(max = 120) String name,
      @Nullable Counts keep,
      @Nullable LocalTime from,
      @Nullable LocalTime to,
      @PositiveOrZero long bytesPerSecond,
      boolean paused,
      @Min(1) @Max(3650) int readEveryDays) {
    Use use() {
      return new Use(
          name.strip(), keep, from, to, bytesPerSecond, paused, Duration.ofDays(readEveryDays));
    }
  }

  record AddRequest(@NotNull @Valid PlaceRequest place, @NotNull @Valid UseRequest use) {}

  record RuleRequest(
      @Min(1) @Max(9) int copies, @Min(1) @Max(9) int disks, @Min(0) @Max(9) int elsewhere) {}

  @GetMapping("/api/projects/{id}/elsewhere")
  ElsewhereView elsewhere(@PathVariable UUID id) {
    return offsite.of(id);
  }

  @PostMapping("/api/projects/{id}/stores")
  ElsewhereView addStore(@PathVariable UUID id, @Valid @RequestBody AddRequest r, Principal who)
      throws IOException {
    return offsite.add(id, r.place().place(), r.use().use(), who.getName());
  }

  @PutMapping("/api/projects/{id}/stores/{store}")
  ElsewhereView changeStore(
      @PathVariable UUID id,
      @PathVariable UUID store,
      @Valid @RequestBody UseRequest r,
      Principal who)
      throws IOException {
    return offsite.change(id, store, r.use(), who.getName());
  }

  @DeleteMapping("/api/projects/{id}/stores/{store}")
  ElsewhereView leaveStore(@PathVariable UUID id, @PathVariable UUID store, Principal who)
      throws IOException {
    return offsite.leave(id, store, who.getName());
  }

  /** How many copies are wanted of each version, on how many disks, how many elsewhere. */
  @PutMapping("/api/projects/{id}/coverage-rule")
  ElsewhereView setRule(@PathVariable UUID id, @Valid @RequestBody RuleRequest r, Principal who)
      throws IOException {
    Rule rule;
    try {
      rule = new Rule(r.copies(), r.disks(), r.elsewhere());
    } catch (IllegalArgumentException wrong) {
      throw ProblemException.badInput("bad-rule", wrong.getMessage() + ". Nothing was changed.");
    }
    return offsite.want(id, rule, who.getName());
  }

  /**
   * A project as a store has it.
   *
   * @param begin what all its names there begin with
   * @param folder where its work lay
   * @param newest when the newest work there was done; null if there are no copies
   */
  record StoredProject(
      String begin,
      UUID project,
      String name,
      String folder,
      int documents,
      int copies,
      long bytes,
      @Nullable Instant newest) {
    static StoredProject of(OffsiteRecovery.Found found) {
      return new StoredProject(
          found.begin(),
          found.project().id(),
          found.project().name(),
          found.project().folder(),
          found.documents().size(),
          found.copies().size(),
          found.bytes(),
          found.newest());
    }
  }

  /** The store that Kavrin was started from; nothing if it was not. */
  @GetMapping("/api/stores/from")
  @ApiResponse(responseCode = "200")
  @ApiResponse(responseCode = "204", content = @Content)
  ResponseEntity<PlaceRequest> startedFrom() throws IOException {
    return startedFrom
        .place()
        .map(ResponseEntity::ok)
        .orElseGet(() -> ResponseEntity.noContent().build());
  }

  /** What a store has; it is asked now. */
  @PostMapping("/api/stores/look")
  List<StoredProject> lookIntoStore(@Valid @RequestBody PlaceRequest r) {
    return offsite.found(offsite.at(r.place())).stream().map(StoredProject::of).toList();
  }

  /**
   * @param begin of a project that the store has
   * @param work folder for its files
   * @param recovery folder for its backups
   * @param until leaves out newer work; null for all
   */
  record StoreBringBackRequest(
      @NotNull @Valid PlaceRequest place,
      @NotBlank String begin,
      @NotBlank String work,
      @NotBlank String recovery,
      @Nullable Instant until) {}

  /** Begins to bring a project back from a store alone; the job's result says what came. */
  @PostMapping("/api/stores/bring-back")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @ApiResponse(responseCode = "202")
  Job bringBackFromStore(@Valid @RequestBody StoreBringBackRequest r, Principal who) {
    StoreAddress store = offsite.at(r.place().place());
    return bringBack.begin(
        new BringBack.Wanted(store, r.begin(), r.work(), r.recovery(), r.until()), who.getName());
  }
}
