package dev.kavrin.server.bundle;

import dev.kavrin.server.bundle.Archives.ArchivePreview;
import dev.kavrin.server.bundle.PackJobs.BundleView;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The final archive of a project, and the way back. */
@RestController
class ArchiveController {
  private final Archives archives;

  ArchiveController(Archives archives) {
    this.archives = archives;
  }

  @GetMapping("/api/projects/{id}/archive")
  ArchivePreview preview(@PathVariable UUID id) throws IOException {
    return archives.preview(id);
  }

  /**
   * @param folder that becomes the archive; is made
   * @param allowed of the files asked about, those that go along
   */
  record ArchiveRequest(
      @NotBlank String folder,
      @NotNull @Size(max = 2000) List<@NotBlank String> allowed,
      @NotNull @Size(max = 20_000) String note) {}

  /** Begins to archive; how far it is stands where bundles do. */
  @PostMapping("/api/projects/{id}/archive")
  BundleView archive(@PathVariable UUID id, @Valid @RequestBody ArchiveRequest r, Principal who)
      throws IOException {
    return archives.pack(id, r.folder(), Set.copyOf(r.allowed()), r.note(), who.getName());
  }

  /**
   * @param files zero for a bag that is no archive
   */
  record ArchiveHolds(int files) {}

  @GetMapping("/api/archives")
  ArchiveHolds holds(@RequestParam String folder) throws IOException {
    return new ArchiveHolds(archives.files(folder));
  }

  /**
   * @param into a new folder
   */
  record BringBackRequest(@NotBlank String folder, @NotBlank String into) {}

  /** Begins to bring every file back under its own name. */
  @PostMapping("/api/archives/bring-back")
  BundleView bringBack(@Valid @RequestBody BringBackRequest r, Principal who) throws IOException {
    return archives.bringBack(r.folder(), r.into(), who.getName());
  }
}
