package dev.kavrin.core.store;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.plan.HandsOff;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.Optional;

/** Tells whether a project's files are to be left alone now, and why. */
final class Busy {
  private final Disk disk;
  private final ProcessTable processes;

  Busy(Disk disk, ProcessTable processes) {
    this.disk = disk;
    this.processes = processes;
  }

  /** In words; empty if nothing holds. Growing documents are seen by whoever watches them. */
  Optional<String> reason(ProjectRecord project, HandsOff plan) {
    if (!plan.process().isEmpty() && processes.runs(plan.process())) {
      return Optional.of(plan.process() + " runs");
    }
    return plan.file().isEmpty()
        ? Optional.empty()
        : standing(Path.of(project.folder()).resolve(plan.file())).map(name -> name + " stands");
  }

  private Optional<String> standing(Path pattern) {
    PathMatcher matcher = FileSystems.getDefault().getPathMatcher("glob:" + pattern.getFileName());
    try {
      return disk.list(pattern.getParent()).stream()
          .map(Path::getFileName)
          .filter(matcher::matches)
          .map(Path::toString)
          .findFirst();
    } catch (IOException noSuchFolder) {
      return Optional.empty();
    }
  }
}
