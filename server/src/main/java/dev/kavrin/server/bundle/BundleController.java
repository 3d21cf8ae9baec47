package dev.kavrin.server.bundle;

import dev.kavrin.core.bundle.BagReport;
import dev.kavrin.server.bundle.BundleContents.BundledFile;
import dev.kavrin.server.bundle.Bundles.Said;
import dev.kavrin.server.bundle.Bundles.Wanted;
import dev.kavrin.server.bundle.PackJobs.BundleView;
import dev.kavrin.server.bundle.Packing.Choice;
import jakarta.annotation.Nullable;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Work that leaves the machine whole. */
@RestController
class BundleController {
  private final Packing packing;
  private final Bundles bundles;
  private final BundleContents contents;
  private final PackJobs jobs;

  BundleController(Packing packing, Bundles bundles, BundleContents contents, PackJobs jobs) {
    this.packing = packing;
    this.bundles = bundles;
    this.contents = contents;
    this.jobs = jobs;
  }

  record PackChoice(@NotNull UUID document, @NotBlank String state) {
    Choice choice() {
      return new Choice(document, state);
    }
  }

  record PackPreviewRequest(@NotEmpty @Size(max = 2000) List<@Valid PackChoice> choices) {}

  /** What would go into a bundle, and what is missing. */
  record PackPreview(List<PackedFile> files, long bytes, Map<String, List<String>> missing) {}

  @PostMapping("/api/bundles/preview")
  PackPreview previewBundle(@Valid @RequestBody PackPreviewRequest r) throws IOException {
    Packing.Packed packed = packing.of(r.choices().stream().map(PackChoice::choice).toList());
    return new PackPreview(packed.files(), packed.bytes(), packed.missing());
  }

  /**
   * @param folder that becomes the bundle, is made; or a ZIP, if it ends so
   * @param allowed what was asked about and goes along, by where it lies
   * @param mark the states are frozen under, such as "issued"; empty for none
   */
  record PackRequest(
      @NotEmpty @Size(max = 2000) List<@Valid PackChoice> choices,
      @NotBlank String folder,
      @NotNull @Size(max = 2000) List<@NotBlank String> allowed,
      @NotBlank @Size(max = 200) String name,
      @NotNull @Size(max = 20_000) String note,
      @NotNull @Size(max = 20_000) String questions,
      @NotNull @Size(max = 40) String mark) {}

  /** Begins to pack. */
  @PostMapping("/api/bundles")
  BundleView pack(@Valid @RequestBody PackRequest r, Principal who) throws IOException {
    return bundles.pack(
        new Wanted(
            r.choices().stream().map(PackChoice::choice).toList(),
            Set.copyOf(r.allowed()),
            r.folder(),
            new Said(r.name(), r.note(), r.questions(), r.mark(), who.getName())));
  }

  /** The one that is being packed, or the last one. */
  record LatestBundle(@Nullable BundleView bundle) {}

  @GetMapping("/api/bundles")
  LatestBundle latest() {
    return new LatestBundle(jobs.latest().orElse(null));
  }

  @DeleteMapping("/api/bundles")
  LatestBundle cancel() {
    jobs.cancel();
    return latest();
  }

  record BagCheckRequest(@NotBlank String folder) {}

  /** Reads a bag, from Kavrin or from any other writer. */
  @PostMapping("/api/bundles/check")
  BagReport checkBundle(@Valid @RequestBody BagCheckRequest r) throws IOException {
    return bundles.check(r.folder());
  }

  /** What a bag holds, against the trails here. */
  @PostMapping("/api/bundles/contents")
  List<BundledFile> contents(@Valid @RequestBody BagCheckRequest r) throws IOException {
    return contents.of(r.folder());
  }

  /**
   * @param path in the bundle, below its payload
   * @param document whose state it becomes
   */
  record TakeInRequest(@NotBlank String folder, @NotBlank String path, @NotNull UUID document) {}

  /** Takes a file in as a state; the document itself stays as it is. */
  @PostMapping("/api/bundles/take-in")
  List<BundledFile> takeIn(@Valid @RequestBody TakeInRequest r, Principal who) throws IOException {
    contents.takeIn(r.folder(), r.path(), r.document(), who.getName());
    return contents.of(r.folder());
  }
}
