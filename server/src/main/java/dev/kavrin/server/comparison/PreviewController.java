package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.picture.Plane;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Duration;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What contents look like; never changes for one content. */
@RestController
class PreviewController {
  private static final String MODEL = "model/gltf-binary";

  private final Previews previews;

  PreviewController(Previews previews) {
    this.previews = previews;
  }

  /**
   * A model in as many triangles as can be looked at.
   *
   * @param draft true for few of them, to be shown while the view is moved
   */
  @GetMapping(path = "/api/contents/{content}/preview", produces = MODEL)
  ResponseEntity<byte[]> preview(
      @PathVariable String content, @RequestParam(defaultValue = "false") boolean draft)
      throws IOException {
    return forGood(MODEL, previews.model(ContentId.parse(content), draft));
  }

  /**
   * A picture; nothing if there is nothing to see.
   *
   * @param lit a part to stand out in it
   */
  @GetMapping(path = "/api/contents/{content}/picture", produces = MediaType.IMAGE_PNG_VALUE)
  ResponseEntity<byte[]> picture(
      @PathVariable String content,
      @RequestParam(defaultValue = "false") boolean large,
      @RequestParam(required = false) @Size(max = 4000) String lit)
      throws IOException {
    ContentId id = ContentId.parse(content);
    return forGood(
        MediaType.IMAGE_PNG_VALUE,
        lit == null ? previews.picture(id, large) : previews.lit(id, lit));
  }

  /** Line work or numbers on a plane, as JSON. */
  @GetMapping(path = "/api/contents/{content}/plane", produces = MediaType.APPLICATION_JSON_VALUE)
  @ApiResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(implementation = Plane.class)))
  @ApiResponse(
      responseCode = "204",
      description = "Nothing on a plane is in it",
      content = @Content)
  ResponseEntity<byte[]> plane(@PathVariable String content) throws IOException {
    return forGood(MediaType.APPLICATION_JSON_VALUE, previews.plane(ContentId.parse(content)));
  }

  private static ResponseEntity<byte[]> forGood(String type, byte[] bytes) {
    if (bytes.length == 0) {
      return ResponseEntity.noContent().cacheControl(CacheControl.noCache()).build();
    }
    return ResponseEntity.ok()
        .cacheControl(CacheControl.maxAge(Duration.ofDays(365)).cachePrivate().immutable())
        .contentType(MediaType.parseMediaType(type))
        .body(bytes);
  }
}
