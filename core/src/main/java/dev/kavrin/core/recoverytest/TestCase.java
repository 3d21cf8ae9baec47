package dev.kavrin.core.recoverytest;

import dev.kavrin.core.journal.ProjectRecord;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.UUID;

/**
 * What is rehearsed.
 *
 * @param project with the plan and the sheet that are to be proven
 * @param path of the document in its project
 * @param states of it, oldest first, whole, each another; played again as the work of the drill
 * @param programWrites longest gap between the program's own writes, null if unknown
 */
public record TestCase(
    ProjectRecord project,
    UUID document,
    String path,
    List<Path> states,
    FailureMode way,
    @jakarta.annotation.Nullable Duration programWrites) {
  /** Between saves where nothing tells how often the program writes; common practice, no source. */
  static final Duration USUAL_SAVE = Duration.ofMinutes(10);

  public TestCase {
    states = List.copyOf(states);
    if (states.size() < 2) {
      throw new IllegalArgumentException(
          "A recovery test plays earlier versions again and needs two different ones");
    }
  }

  Duration gap() {
    return programWrites == null ? USUAL_SAVE : programWrites;
  }
}
