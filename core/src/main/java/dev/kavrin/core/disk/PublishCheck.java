package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.nio.file.Path;

/** The last look at a finished stage before it gets its name; throwing leaves nothing behind. */
@FunctionalInterface
public interface PublishCheck {
  /** Lets everything through. */
  PublishCheck NONE = (stage, content) -> {};

  /**
   * @param stage written, flushed and read back
   */
  void pass(Path stage, ContentId content) throws IOException;
}
