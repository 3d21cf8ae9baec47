package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.time.Duration;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

@RestController
class PreviewController {
  private final Previews previews;

  PreviewController(Previews previews) {
    this.previews = previews;
  }

  /** A reduced GLB; never changes for one content. */
  @GetMapping(path = "/api/contents/{content}/preview", produces = "model/gltf-binary")
  ResponseEntity<byte[]> preview(@PathVariable String content) throws IOException {
    return ResponseEntity.ok()
        .cacheControl(CacheControl.maxAge(Duration.ofDays(365)).cachePrivate().immutable())
        .contentType(MediaType.parseMediaType("model/gltf-binary"))
        .body(previews.of(ContentId.parse(content)));
  }
}
