package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.compare.ByteChange;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.Outcome;
import dev.kavrin.core.compare.PartChange;
import dev.kavrin.core.health.Readers;
import dev.kavrin.core.restore.PartRestore;
import dev.kavrin.server.restore.PartRestores;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionFiles.Side;
import dev.kavrin.server.version.VersionFiles.Sides;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.constraints.DecimalMin;
import java.io.IOException;
import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Compares two states, or a state and a file from anywhere. */
@RestController
class ComparisonController {
  private final VersionFiles files;
  private final Comparisons comparisons;
  private final DroppedFiles dropped;
  private final PartRestores composed;
  private final Previews previews;

  ComparisonController(
      VersionFiles files,
      Comparisons comparisons,
      DroppedFiles dropped,
      PartRestores composed,
      Previews previews) {
    this.files = files;
    this.comparisons = comparisons;
    this.dropped = dropped;
    this.composed = composed;
    this.previews = previews;
  }

  /**
   * @param contentA what state A holds, for its picture
   * @param shows what there is to see of both
   * @param counts how many parts came to each outcome
   * @param bytes how the bytes differ, null where parts were compared
   * @param readA what was read of A, and what is wrong with it
   * @param tolerance up to which lengths count as the same
   * @param takes true if parts can be brought from one into the other
   * @param setups whether both steps come from the same set-up, in words; null if they are none
   */
  record ComparisonView(
      String a,
      String b,
      String contentA,
      String contentB,
      Readers.Shows shows,
      String sentence,
      Map<Outcome, Long> counts,
      List<PartChange> changes,
      @Nullable ByteChange bytes,
      Comparison.Side readA,
      Comparison.Side readB,
      double tolerance,
      boolean takes,
      @Nullable String setups) {}

  /**
   * @param share that is done, below 1 while it is being made; ask again
   * @param view null until then
   */
  record ComparisonAnswer(double share, @Nullable ComparisonView view) {}

  /**
   * @param known the state of this document that the file holds, null if it is none of them
   */
  record DroppedView(String name, @Nullable String known, ComparisonView view) {}

  @GetMapping("/api/documents/{id}/comparison")
  ComparisonAnswer compare(
      @PathVariable UUID id,
      @RequestParam String a,
      @RequestParam String b,
      @RequestParam(required = false) @DecimalMin("0") Double tolerance,
      Principal who) {
    List<Sides> sides = files.sides(id, a, b);
    Comparisons.Standing standing = comparisons.of(sides, tolerance, who.getName());
    return new ComparisonAnswer(
        standing.share(), standing.made() == null ? null : view(a, b, sides, standing.made()));
  }

  /** Stops making it; what was made before stays. */
  @DeleteMapping("/api/documents/{id}/comparison")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void stop(
      @PathVariable UUID id,
      @RequestParam String a,
      @RequestParam String b,
      @RequestParam(required = false) @DecimalMin("0") Double tolerance) {
    comparisons.stop(files.sides(id, a, b), tolerance);
  }

  /** The same as a file: JSON by the published schema, or a table of values. */
  @GetMapping("/api/documents/{id}/comparison/export")
  @ApiResponse(
      responseCode = "200",
      content = {
        @Content(mediaType = "application/json", schema = @Schema(type = "object")),
        @Content(mediaType = "text/csv", schema = @Schema(type = "string"))
      })
  ResponseEntity<byte[]> export(
      @PathVariable UUID id,
      @RequestParam String a,
      @RequestParam String b,
      @RequestParam ComparisonExport as,
      @RequestParam(required = false) @DecimalMin("0") Double tolerance,
      Principal who) {
    List<Sides> sides = files.sides(id, a, b);
    Comparison comparison = comparisons.whole(sides, tolerance, who.getName());
    Sides first = sides.get(0);
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename("comparison." + as.ending())
                .build()
                .toString())
        .contentType(MediaType.parseMediaType(as.type()))
        .body(as.written(comparison, first.a(), first.b()));
  }

  /** Holds a file from anywhere against state A; it is read once and not kept. */
  @PostMapping(
      path = "/api/documents/{id}/comparison/dropped",
      consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  DroppedView compareDropped(
      @PathVariable UUID id,
      @RequestParam String a,
      @RequestParam String name,
      HttpServletRequest request)
      throws IOException {
    Side ours = files.side(id, a);
    return dropped.with(
        request.getInputStream(),
        name,
        theirs -> {
          Comparison comparison = comparisons.read(ours, theirs, null, share -> {});
          return new DroppedView(
              theirs.name(),
              files.stateOf(id, theirs.content()).orElse(null),
              view(a, "", List.of(new Sides(null, ours, theirs)), comparison));
        });
  }

  /** The file of today against the version with parts in it that waits to take its place. */
  @GetMapping("/api/documents/{id}/part-restores/{version}/comparison")
  ComparisonView composed(@PathVariable UUID id, @PathVariable UUID version) throws IOException {
    List<Side> sides = composed.sides(id, version);
    Side waiting = sides.get(1);
    Comparison comparison = comparisons.read(sides.get(0), waiting, null, share -> {});
    previews.keep(ContentId.parse(waiting.content()), waiting.file(), waiting.name());
    return view("", "", List.of(new Sides(null, sides.get(0), waiting)), comparison);
  }

  private static ComparisonView view(String a, String b, List<Sides> sides, Comparison comparison) {
    Sides first = sides.get(0);
    return new ComparisonView(
        a,
        b,
        first.a().content(),
        first.b().content(),
        Readers.shows(first.a().name()) == Readers.shows(first.b().name())
            ? Readers.shows(first.a().name())
            : Readers.Shows.NUMBERS,
        comparison.sentence(),
        comparison.changes().stream()
            .collect(Collectors.groupingBy(PartChange::outcome, Collectors.counting())),
        comparison.changes(),
        comparison.bytes(),
        comparison.a(),
        comparison.b(),
        comparison.tolerance(),
        sides.size() == 1 && PartRestore.canTake(first.a().name()),
        sides.size() > 1 ? setups(sides, comparison) : null);
  }

  /** Which set-up made which result. */
  @Nullable
  private static String setups(List<Sides> sides, Comparison comparison) {
    Sides setup = sides.stream().filter(Sides::isSetup).findFirst().orElse(null);
    if (setup == null) {
      return null;
    }
    if (ContentId.parse(setup.a().content()).equals(ContentId.parse(setup.b().content()))) {
      return "Both steps come from the same set-up.";
    }
    long values =
        comparison.changes().stream()
            .filter(c -> c.kind().equals("setting") && c.outcome() != Outcome.SAME)
            .count();
    return values == 0
        ? "Their set-ups are written differently and say the same."
        : "B comes from another set-up: "
            + dev.kavrin.core.units.Words.count(values, "value")
            + (values == 1 ? " differs." : " differ.");
  }
}
