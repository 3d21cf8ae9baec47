package dev.kavrin.core.watch;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.host.Processes;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.plan.Pauses;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.List;
import java.util.Optional;

/** Tells whether a project's files are to be left alone now, and why. */
public final class PauseRule {
  private final Disk disk;
  private final Processes processes;
  private final FolderHours.Rests rests;

  public PauseRule(Disk disk, Processes processes, FolderHours.Rests rests) {
    this.disk = disk;
    this.processes = processes;
    this.rests = rests;
  }

  /**
   * Why nothing may be read or written at all, whatever the plan says; in words. One recovery
   * folder of several may rest while the others go on.
   */
  public Optional<String> outOfHours(ProjectRecord project) {
    Optional<String> work = rests.why(Path.of(project.folder()));
    if (work.isPresent()) {
      return work;
    }
    List<Optional<String>> recoveries =
        project.recoveries().stream().map(r -> rests.why(Path.of(r))).toList();
    return recoveries.stream().allMatch(Optional::isPresent) ? recoveries.get(0) : Optional.empty();
  }

  /** In words; empty if nothing holds. Growing documents are seen by whoever watches them. */
  Optional<String> reason(ProjectRecord project, Pauses plan) {
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
