package dev.kavrin.core.profile;

import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/** The processes of this machine, Kavrin's own left out. */
@FunctionalInterface
public interface Running {
  /**
   * One process.
   *
   * @param arguments its command line, program first
   * @param open regular files it has open, as far as they can be seen
   */
  record Process(long pid, List<String> arguments, Set<Path> open) {}

  List<Process> now();
}
