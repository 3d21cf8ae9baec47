package dev.kavrin.server.comparison;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PublishCheck;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Settings;
import dev.kavrin.server.version.VersionFiles.Side;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.function.Function;
import org.springframework.stereotype.Component;

/** Files that a person drops onto the page: taken in, looked at, let go. */
@Component
class DroppedFiles {
  private static final long LEFT_FREE = 200_000_000;
  private static final int BLOCK = 1 << 16;

  private final Disk disk;
  private final Publisher publisher;
  private final Path folder;
  private final Previews previews;
  private final InstantSource clock;

  DroppedFiles(
      Disk disk, Publisher publisher, Settings settings, Previews previews, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.folder = settings.data().resolve("dropped");
    this.previews = previews;
    this.clock = clock;
  }

  /**
   * Takes a file in for as long as somebody looks at it; its picture is kept.
   *
   * @param name as the person calls it; only its last name counts
   * @throws ProblemException too little room is left for it
   */
  <T> T with(InputStream bytes, String name, Function<Side, T> look) throws IOException {
    String last = name.replaceFirst("(?s)^.*[/\\\\]", "");
    if (last.isBlank()) {
      throw ProblemException.badInput("no-name", "A file needs a name. Nothing was read.");
    }
    Files.createDirectories(folder);
    Path file = folder.resolve(Ids.next(clock.instant()).toString());
    ContentId content =
        publisher.publish(
            file,
            sink -> {
              byte[] block = new byte[BLOCK];
              for (int n = bytes.read(block); n >= 0; n = bytes.read(block)) {
                if (disk.room(folder) < LEFT_FREE) {
                  throw ProblemException.conflict(
                      "no-room", "There is too little room to look at a file of that size.");
                }
                sink.write(block, 0, n);
              }
            },
            PublishCheck.NONE);
    try {
      T seen = look.apply(new Side(content.toString(), file, last));
      previews.keep(content, file, last);
      return seen;
    } finally {
      publisher.purge(file);
    }
  }
}
