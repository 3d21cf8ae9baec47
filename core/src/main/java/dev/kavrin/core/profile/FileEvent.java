package dev.kavrin.core.profile;

import dev.kavrin.core.disk.FileFacts;
import java.nio.file.Path;
import java.time.Instant;

/**
 * What happened to a file between two looks.
 *
 * @param at when it was noticed
 * @param facts as it stands now, or stood last if it is gone
 */
public record FileEvent(Instant at, Path path, Kind kind, FileFacts facts) {
  /** What can happen to a file. */
  public enum Kind {
    APPEARED,
    WRITTEN,
    GONE
  }

  boolean wrote() {
    return kind != Kind.GONE;
  }
}
