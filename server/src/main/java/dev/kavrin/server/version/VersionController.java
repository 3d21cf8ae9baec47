package dev.kavrin.server.version;

import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
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

@RestController
class VersionController {
  private final VersionService trail;

  VersionController(VersionService trail) {
    this.trail = trail;
  }

  record MarkRequest(
      @NotBlank String state,
      @Pattern(regexp = "pinned|noted|opened right|opened wrong|carried over|given up") String mark,
      boolean on,
      @Size(max = 500) @Nullable String note) {}

  record RecheckRequest(@NotBlank String state) {}

  /**
   * Reads all copies of a state again, and what is inside them.
   *
   * @return how many of Kavrin's are what was written
   */
  @PostMapping("/api/documents/{id}/recheck")
  RecheckAnswer recheck(@PathVariable UUID id, @Valid @RequestBody RecheckRequest r)
      throws IOException {
    return new RecheckAnswer(trail.recheck(id, r.state()));
  }

  record RecheckAnswer(int whole) {}

  record TakeBackRequest(@NotBlank String bin) {}

  @GetMapping("/api/documents/{id}/versions")
  VersionsView versions(@PathVariable UUID id) {
    return trail.trail(id);
  }

  /** States in full, newest work first, a page of them; page 0 is what the trail begins with. */
  @GetMapping("/api/documents/{id}/versions/page")
  List<VersionsView.StateView> states(
      @PathVariable UUID id, @RequestParam @Min(0) @Max(1_000_000) int page) {
    return trail.page(id, page);
  }

  /** One state in full. */
  @GetMapping("/api/documents/{id}/versions/{state}")
  VersionsView.StateView state(@PathVariable UUID id, @PathVariable String state) {
    return trail.state(id, state);
  }

  /** Looks at the document's places now. */
  @PostMapping("/api/documents/{id}/look")
  VersionsView look(@PathVariable UUID id) {
    trail.look(id);
    return trail.trail(id);
  }

  @PostMapping("/api/documents/{id}/marks")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void mark(@PathVariable UUID id, @Valid @RequestBody MarkRequest r, Principal who)
      throws IOException {
    trail.mark(id, r.state(), r.mark(), r.on(), who.getName(), r.note());
  }

  @PostMapping("/api/documents/{id}/take-back")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void takeBack(@PathVariable UUID id, @Valid @RequestBody TakeBackRequest r) throws IOException {
    trail.takeBack(id, r.bin());
  }
}
