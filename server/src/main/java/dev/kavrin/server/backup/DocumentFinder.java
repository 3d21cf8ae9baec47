package dev.kavrin.server.backup;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.lane.Alone;
import dev.kavrin.core.naming.RelativePath;
import dev.kavrin.core.plan.Plan;
import dev.kavrin.core.units.Clockwork;
import dev.kavrin.core.watch.Discovery;
import dev.kavrin.core.watch.NeverSaved;
import dev.kavrin.core.watch.SaveAsSeries;
import dev.kavrin.server.platform.Ids;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/** Finds documents that joined a project's folder, and work that was never saved. */
final class DocumentFinder {
  private static final String FOLLOWED = "Kavrin, following the series";

  private final Disk disk;
  private final Clockwork clock;
  private final Supplier<Collection<Kept>> projects;

  private final Alone looking = new Alone();

  DocumentFinder(Disk disk, Clockwork clock, Supplier<Collection<Kept>> projects) {
    this.disk = disk;
    this.clock = clock;
    this.projects = projects;
  }

  boolean isHere(Path place) throws IOException {
    return FolderMarker.read(disk, place).isPresent();
  }

  /** Looks once; two looks at one project are one after the other. */
  void look(Kept kept) throws IOException {
    looking.run(kept.project().id(), () -> lookAlone(kept));
  }

  private void lookAlone(Kept kept) throws IOException {
    Path folder = Path.of(kept.project().folder());
    if (!isHere(folder) || kept.watch().standsBack().isPresent()) {
      return;
    }
    List<String> paths =
        kept.folder().history().documents(kept.project().id()).stream()
            .map(JournalEntry.DocumentSet::path)
            .toList();
    for (Path found :
        Discovery.look(
                disk,
                folder,
                kept.project().rule(),
                kept.project().sets(),
                kept.project().program())
            .documents()) {
      String path = RelativePath.of(folder, found);
      if (!paths.contains(path)) {
        followChain(kept, newDocument(kept, path), path);
      }
    }
    for (String path : NeverSaved.look(disk, kept.project(), allDocuments())) {
      newDocument(kept, path);
    }
  }

  private UUID newDocument(Kept kept, String path) throws IOException {
    UUID id = Ids.next(clock.instant());
    kept.folders()
        .record(new JournalEntry.DocumentSet(clock.instant(), id, kept.project().id(), path));
    kept.watch().watch(id, path);
    return id;
  }

  private Set<Path> allDocuments() {
    return projects.get().stream().flatMap(k -> k.livePaths().stream()).collect(Collectors.toSet());
  }

  /** The next number of a chain goes on by the plan of the one before it. */
  private void followChain(Kept kept, UUID id, String path) throws IOException {
    ProjectRecord project = kept.project();
    Optional<Plan> own =
        SaveAsSeries.of(path, kept.folder().history().documents(project.id())).stream()
            .filter(d -> project.exceptions().containsKey(d.id()))
            .reduce((earlier, later) -> later)
            .map(d -> project.exceptions().get(d.id()));
    if (own.isPresent()) {
      ProjectRecord changed = project.except(id, own.get());
      kept.folders().record(new JournalEntry.ProjectSet(clock.instant(), FOLLOWED, changed));
      kept.watch().change(changed);
    }
  }
}
