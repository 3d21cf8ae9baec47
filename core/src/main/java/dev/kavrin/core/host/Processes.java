package dev.kavrin.core.host;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/** Which programs are alive on this machine, and what they have open, as far as the host tells. */
@FunctionalInterface
public interface Processes {
  /** Nothing runs, as far as can be told. */
  Processes EMPTY = words -> false;

  /** True if a process has these words in its command line; false for empty words. */
  boolean runs(String words);

  /** The instances with these words in their command line; none for empty words. */
  default List<Instance> instances(String words) {
    return runs(words) ? List.of(Instance.untold(words)) : List.of();
  }

  /** Instances of whatever name that have this file open; none where the host does not tell. */
  default List<Instance> having(Path file) {
    return List.of();
  }

  /**
   * Processor time that all processes with these words have used so far; empty where the host does
   * not tell.
   */
  default Optional<Duration> used(String words) {
    return instances(words).stream()
        .flatMap(i -> Optional.ofNullable(i.used()).stream())
        .reduce(Duration::plus);
  }

  /** The name of this machine; empty where the host does not tell. */
  default String name() {
    return "";
  }

  /** What tells one start of the machine from the next; empty where the host does not tell. */
  default String boot() {
    return "";
  }
}
