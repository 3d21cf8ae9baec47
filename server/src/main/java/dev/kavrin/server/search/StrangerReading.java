package dev.kavrin.server.search;

import dev.kavrin.core.chunk.Sketch;
import dev.kavrin.core.content.Bytes;
import dev.kavrin.core.content.Part;
import dev.kavrin.core.version.DocumentMatcher;
import dev.kavrin.server.backup.Engine;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Reads files by whose contents it is told what they belong to. */
@Component
class StrangerReading {
  private final Engine engine;

  StrangerReading(Engine engine) {
    this.engine = engine;
  }

  Sketch sketch(Path file) throws IOException {
    try (SeekableByteChannel in = engine.disk().read(file)) {
      return Sketch.of(Bytes.from(in, 0));
    }
  }

  /**
   * @param path by which it is to be tied; that of the file, unless it was fetched from elsewhere
   * @param size of it, counted as read
   */
  DocumentMatcher.Stranger stranger(Path path, Path file, long size, RunningSearch search)
      throws IOException {
    Sketch sketch = sketch(file);
    Set<String> parts =
        engine.inspector().inspect(file, file.getFileName().toString()).inventory().parts().stream()
            .map(Part::exact)
            .filter(Objects::nonNull)
            .collect(Collectors.toSet());
    search.row.readFiles++;
    search.row.readBytes += size;
    return new DocumentMatcher.Stranger(path, sketch, parts);
  }
}
