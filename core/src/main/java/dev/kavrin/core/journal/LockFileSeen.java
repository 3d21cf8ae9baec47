package dev.kavrin.core.journal;

import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * A lock file that fits the pattern of the project's program stood: from then on, that none stands
 * tells something.
 *
 * @param pattern as the program's profile has it
 */
public record LockFileSeen(Instant at, UUID project, String pattern)
    implements JournalEntry, Fact.OfProject {
  /** True if one that fits the pattern stood once in a project. */
  public static boolean isToldBy(History history, UUID project, String pattern) {
    return history.all(LockFileSeen.class, project).stream()
        .anyMatch(s -> s.pattern().equals(pattern));
  }

  @Override
  public List<Object> key() {
    return List.of(pattern);
  }
}
