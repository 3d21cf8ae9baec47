package dev.kavrin.server.overview;

import dev.kavrin.core.units.Sizes;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.folder.FolderCheck;
import dev.kavrin.server.folder.FolderPresence;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.offsite.Coverages;
import dev.kavrin.server.offsite.Coverages.SiteLine;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.Summaries;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** What stands in the way of a project's safety, or costs more than it need, in words. */
@Component
class ProjectCautions {
  private static final Duration DAY_AHEAD = Duration.ofDays(1);
  private static final String ELSEWHERE_TOO =
      "Same disk as the work: if it breaks, only the copies elsewhere are left.";

  private final FolderService places;
  private final FolderPresence presence;
  private final Summaries summaries;
  private final Engine engine;
  private final Coverages coverages;
  private final InstantSource clock;

  ProjectCautions(
      FolderService places,
      FolderPresence presence,
      Summaries summaries,
      Engine engine,
      Coverages coverages,
      InstantSource clock) {
    this.places = places;
    this.presence = presence;
    this.summaries = summaries;
    this.engine = engine;
    this.coverages = coverages;
    this.clock = clock;
  }

  List<String> of(ProjectService.Project p, boolean workHere, boolean recoveryHere) {
    if (!workHere) {
      return List.of(p.folder() + " is away. Nothing is called missing there.");
    }
    List<String> all = new ArrayList<>();
    engine
        .project(p.id())
        .flatMap(k -> k.older().proposal())
        .ifPresent(
            pays ->
                all.add(
                    "Older versions could take "
                        + Sizes.words(pays.saves())
                        + " less: the plan can have them compacted."));
    for (ProjectService.Recovery folder : p.recoveries()) {
      if (!folder.here()) {
        all.add(
            folder.path()
                + (recoveryHere
                    ? " is away: it is caught up when it is back."
                    : " is away: no copies are made until it is back."));
      } else {
        all.addAll(of(p, folder));
      }
    }
    return all;
  }

  /** True if the newest whole version of every document lies elsewhere, too. */
  private static boolean isAll(SiteLine line) {
    return line.stores() > 0 && line.elsewhere() == line.documents();
  }

  private List<String> of(ProjectService.Project p, ProjectService.Recovery folder) {
    FolderCheck check = presence.lastCheck(folder.path(), p.folder()).orElse(null);
    if (check == null) {
      return List.of();
    }
    String which = p.recoveries().size() > 1 ? folder.path() + ": " : "";
    List<String> all = new ArrayList<>();
    check.faults().forEach(f -> all.add(which + f));
    boolean elsewhere =
        engine.project(p.id()).map(coverages::line).filter(ProjectCautions::isAll).isPresent();
    check.cautions().stream()
        .map(c -> elsewhere && c.equals(FolderService.SAME_DISK) ? ELSEWHERE_TOO : c)
        .forEach(c -> all.add(which + c));
    if (folder.behind() != null) {
      all.add(folder.path() + " lacks copies: " + folder.behind());
    }
    places
        .byPath(Path.of(folder.path()))
        .flatMap(place -> summaries.fullAt(place, check.free()))
        .filter(t -> t.isBefore(clock.instant().plus(DAY_AHEAD)))
        .ifPresent(t -> all.add(folder.path() + " is full within a day, as it fills now."));
    return all;
  }
}
