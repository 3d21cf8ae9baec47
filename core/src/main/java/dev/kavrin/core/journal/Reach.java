package dev.kavrin.core.journal;

import java.io.IOException;
import java.nio.file.Path;
import java.util.UUID;

/** Whether files outside a backup folder can be looked at, and may be touched, now. */
@FunctionalInterface
public interface Reach {
  /** How it stands with a file. */
  enum Answer {
    /** Its folder is there: what is absent is absent. */
    HERE,
    /** Its drive is away: nothing can be told. */
    AWAY,
    /** It lies where Kavrin has no business. */
    FORBIDDEN
  }

  /** For tests and tools that look after one folder. */
  Reach EVERYWHERE = (project, file) -> Answer.HERE;

  /**
   * @param document whose file it is or was
   */
  Answer of(UUID document, Path file) throws IOException;
}
