package dev.kavrin.core.profile;

import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Set;

/**
 * A process while it was watched.
 *
 * @param open files it was seen to have open
 * @param from when it was seen to start, null if it ran already
 * @param to when it was seen to have ended, null if it runs still
 */
public record Ran(
    List<String> arguments, Set<Path> open, @Nullable Instant from, @Nullable Instant to) {
  String commandLine() {
    return String.join(" ", arguments);
  }
}
