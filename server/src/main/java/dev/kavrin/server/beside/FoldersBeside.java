package dev.kavrin.server.beside;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.FileName;
import dev.kavrin.core.profile.OwnFiles;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.watch.Discovery;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.beside.FolderBeside.Why;
import dev.kavrin.server.links.LinkRow;
import dev.kavrin.server.links.ProjectLinks;
import dev.kavrin.server.people.Access;
import dev.kavrin.server.platform.PathGuard;
import dev.kavrin.server.project.ProjectService;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/**
 * Finds what a project's work needs beside the project: its program's own files, and linked files
 * elsewhere. Nothing is looked at outside the folders that Kavrin may look into.
 */
@Service
class FoldersBeside {
  private final ProjectService projects;
  private final ProjectLinks links;
  private final Engine engine;
  private final PathGuard guard;
  private final Access access;
  private final Disk disk;

  FoldersBeside(
      ProjectService projects,
      ProjectLinks links,
      Engine engine,
      PathGuard guard,
      Access access,
      Disk disk) {
    this.projects = projects;
    this.links = links;
    this.engine = engine;
    this.guard = guard;
    this.access = access;
    this.disk = disk;
  }

  List<FolderBeside> of(UUID project) throws IOException {
    ProjectRecord record = projects.kept(project).project();
    return Stream.concat(ownFiles(record).stream(), linked(record).stream()).toList();
  }

  private List<FolderBeside> ownFiles(ProjectRecord project) {
    Path work = Path.of(project.folder());
    List<FolderBeside> all = new ArrayList<>();
    for (OwnFiles own : project.program().ownFiles()) {
      for (Path folder : folders(own, work)) {
        if (!folder.startsWith(work)) {
          all.add(beside(project, Why.OWN_FILES, folder, own.rule()));
        }
      }
    }
    return all;
  }

  /** None if a variable in the path is not set here. */
  private List<Path> folders(OwnFiles own, Path work) {
    try {
      Path top = own.top(work);
      return guard.allows(top) ? own.folders(disk, work) : List.of(top);
    } catch (IllegalArgumentException unset) {
      return List.of();
    }
  }

  /** By folder; one inside another is told with that one. */
  private List<FolderBeside> linked(ProjectRecord project) throws IOException {
    Map<Path, TreeSet<String>> endings = new TreeMap<>();
    for (LinkRow link : links.of(project.id())) {
      Path file = Path.of(link.file());
      if (!file.startsWith(project.folder()) && link.status() != LinkRow.Status.MISSING) {
        endings.computeIfAbsent(file.getParent(), f -> new TreeSet<>()).add(named(file));
      }
    }
    Map<Path, TreeSet<String>> topmost = new TreeMap<>();
    endings.forEach(
        (folder, rule) ->
            topmost.keySet().stream()
                .filter(folder::startsWith)
                .findFirst()
                .map(topmost::get)
                .orElseGet(() -> topmost.computeIfAbsent(folder, f -> new TreeSet<>()))
                .addAll(rule));
    return topmost.entrySet().stream()
        .map(e -> beside(project, Why.LINKED, e.getKey(), List.copyOf(e.getValue())))
        .toList();
  }

  /** All of its ending, so that what is linked tomorrow is among them. */
  private static String named(Path file) {
    FileName name = FileName.of(file.getFileName().toString());
    return name.ext().isEmpty() ? file.getFileName().toString() : "*." + name.ext();
  }

  private FolderBeside beside(ProjectRecord project, Why why, Path named, List<String> rule) {
    if (!guard.allows(named)) {
      return new FolderBeside(why, named.toString(), rule, 0, 0, false, null);
    }
    Path folder = guard.folderToMake(named.toString());
    List<Path> files = Discovery.look(disk, folder, rule, null, ProgramProfile.UNKNOWN).documents();
    return new FolderBeside(
        why,
        folder.toString(),
        rule,
        files.size(),
        files.stream().mapToLong(this::size).sum(),
        true,
        backedUpBy(project, folder, files));
  }

  private long size(Path file) {
    try {
      return disk.facts(file).map(FileFacts::size).orElse(0L);
    } catch (IOException unreadable) {
      return 0;
    }
  }

  private @Nullable String backedUpBy(ProjectRecord project, Path folder, List<Path> files) {
    return engine.projects().stream()
        .map(Kept::project)
        .filter(p -> !p.id().equals(project.id()) && folder.startsWith(p.folder()))
        .filter(p -> files.stream().allMatch(p::takes))
        .findFirst()
        .map(p -> access.sees(p.id()) ? p.name() : "another project")
        .orElse(null);
  }
}
