package dev.kavrin.server.links;

import dev.kavrin.core.relink.Relink.Renamed;
import dev.kavrin.server.links.Relinks.RuleMatch;
import dev.kavrin.server.links.Relinks.ServingFile;
import dev.kavrin.server.restore.PartRestores;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What documents lean on, and leading them there again. */
@RestController
class LinkController {
  private final ProjectLinks links;
  private final Relinks relinks;

  LinkController(ProjectLinks links, Relinks relinks) {
    this.links = links;
    this.relinks = relinks;
  }

  @GetMapping("/api/projects/{id}/links")
  List<LinkRow> links(@PathVariable UUID id) throws IOException {
    return links.of(id);
  }

  /**
   * @param in a folder to look through, the project's if there is none
   */
  @GetMapping("/api/documents/{id}/link-candidates")
  List<ServingFile> candidates(
      @PathVariable UUID id,
      @RequestParam String uri,
      @RequestParam(required = false) @Nullable String in)
      throws IOException {
    return relinks.candidates(id, uri, in);
  }

  record LinkRule(@NotBlank String from, @NotBlank String to) {}

  @PostMapping("/api/projects/{id}/links/rule")
  List<RuleMatch> byRule(@PathVariable UUID id, @Valid @RequestBody LinkRule r) throws IOException {
    return relinks.byRule(id, r.from(), r.to());
  }

  /**
   * @param uri as it is written in the document
   * @param file to name instead, a whole path
   */
  record LinkChoice(@NotBlank String uri, @NotBlank String file) {}

  record RelinkRequest(@NotEmpty @Size(max = 500) List<@Valid LinkChoice> choices) {}

  /**
   * What was written to the side; nothing is touched yet.
   *
   * @param id to put it in its place by, like parts that were brought
   * @param unequal why it is not proven, in words; empty if it is
   */
  record RelinkPreview(UUID id, List<Renamed> renamed, List<String> unequal) {}

  @PostMapping("/api/documents/{id}/relinks/preview")
  RelinkPreview preview(@PathVariable UUID id, @Valid @RequestBody RelinkRequest r)
      throws IOException {
    Map<String, String> wanted = new LinkedHashMap<>();
    r.choices().forEach(c -> wanted.put(c.uri(), c.file()));
    PartRestores.Relinked made = relinks.prepare(id, wanted);
    return new RelinkPreview(made.id(), made.written().renamed(), made.written().unequal());
  }
}
