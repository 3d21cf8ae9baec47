package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.compare.ByteChange;
import dev.kavrin.core.compare.Comparison;
import dev.kavrin.core.compare.Outcome;
import dev.kavrin.core.compare.PartChange;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.Unchanged;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.ReaderProcess;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.trail.TrailService;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** Compares two states and hands out pictures of contents to look at. */
@RestController
class ComparisonController {
  private static final int MOST_TRIANGLES = 200_000;

  private final TrailService trail;
  private final ReaderProcess reader;
  private final ComparisonRow.Repository kept;
  private final Disk disk;
  private final Publisher publisher;
  private final Path previews;

  ComparisonController(
      TrailService trail,
      ReaderProcess reader,
      ComparisonRow.Repository kept,
      Disk disk,
      Publisher publisher,
      Settings settings) {
    this.trail = trail;
    this.reader = reader;
    this.kept = kept;
    this.disk = disk;
    this.publisher = publisher;
    this.previews = settings.data().resolve("previews");
  }

  /**
   * @param contentA what state A holds, for its picture
   * @param drawn true if there is a picture of this kind
   * @param counts how many parts came to each outcome
   * @param bytes how the bytes differ, null where parts were compared
   */
  record ComparisonView(
      String a,
      String b,
      String contentA,
      String contentB,
      boolean drawn,
      String sentence,
      Map<Outcome, Long> counts,
      List<PartChange> changes,
      @Nullable ByteChange bytes) {}

  @GetMapping("/api/documents/{id}/comparison")
  ComparisonView compare(@PathVariable UUID id, @RequestParam String a, @RequestParam String b) {
    TrailService.Sides sides = trail.sides(id, a, b);
    String contentA = sides.a().content();
    String contentB = sides.b().content();
    Comparison comparison =
        kept.findByContentAAndContentB(contentA, contentB)
            .map(row -> JsonMapper.shared().readValue(row.body, Comparison.class))
            .filter(known -> !known.changes().isEmpty() || known.bytes() != null)
            .orElseGet(() -> make(sides));
    return new ComparisonView(
        a,
        b,
        contentA,
        contentB,
        FileName.of(sides.b().name()).lowerExt().equals("glb"),
        comparison.sentence(),
        comparison.changes().stream()
            .collect(Collectors.groupingBy(PartChange::outcome, Collectors.counting())),
        comparison.changes(),
        comparison.bytes());
  }

  private Comparison make(TrailService.Sides sides) {
    Comparison comparison = unchanged(sides);
    String contentA = sides.a().content();
    String contentB = sides.b().content();
    ComparisonRow row =
        kept.findByContentAAndContentB(contentA, contentB).orElseGet(ComparisonRow::new);
    row.contentA = contentA;
    row.contentB = contentB;
    row.body = JsonMapper.shared().writeValueAsString(comparison);
    kept.save(row);
    return comparison;
  }

  /** A comparison is kept for good, so it must be one of these contents and no other. */
  private Comparison unchanged(TrailService.Sides sides) {
    TrailService.Side a = sides.a();
    TrailService.Side b = sides.b();
    try {
      return Unchanged.read(
              disk,
              a.file(),
              ContentId.parse(a.content()),
              left ->
                  Unchanged.read(
                      disk,
                      b.file(),
                      ContentId.parse(b.content()),
                      right -> reader.compare(left, a.name(), right, b.name())))
          .flatMap(Function.identity())
          .orElseThrow(
              () ->
                  ProblemException.conflict(
                      "written-meanwhile",
                      "A file was written while it was read. Compare again in a moment."));
    } catch (IOException unreadable) {
      throw ProblemException.away(
          "A copy cannot be read: " + unreadable.getMessage() + ". Nothing was touched.",
          unreadable);
    }
  }

  /** A reduced GLB without materials or outside links; never changes for one content. */
  @GetMapping(path = "/api/contents/{content}/preview", produces = "model/gltf-binary")
  ResponseEntity<byte[]> preview(@PathVariable String content) throws IOException {
    ContentId id = ContentId.parse(content);
    Path cached = previews.resolve(id + ".glb");
    byte[] bytes = Files.exists(cached) ? Files.readAllBytes(cached) : draw(id, cached);
    return ResponseEntity.ok()
        .cacheControl(CacheControl.maxAge(Duration.ofDays(365)).cachePrivate().immutable())
        .contentType(MediaType.parseMediaType("model/gltf-binary"))
        .body(bytes);
  }

  private byte[] draw(ContentId id, Path cached) throws IOException {
    Path file =
        trail
            .fileOf(id)
            .orElseThrow(() -> ProblemException.notFound("No copy of it can be reached."));
    byte[] bytes =
        Unchanged.read(disk, file, id, f -> reader.preview(f, MOST_TRIANGLES))
            .orElseThrow(
                () ->
                    ProblemException.conflict(
                        "written-meanwhile", "The file was written while it was read."));
    Files.createDirectories(previews);
    try {
      publisher.publish(cached, sink -> sink.write(bytes, 0, bytes.length), Publisher.OPEN);
    } catch (FileAlreadyExistsException drawnMeanwhile) {
      return bytes;
    }
    return bytes;
  }
}
