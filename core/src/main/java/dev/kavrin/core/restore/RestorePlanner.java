package dev.kavrin.core.restore;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Abilities;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.restore.StepLayout.Piece;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Works out what a restore would do, under names that are free; touches nothing. */
public final class RestorePlanner {
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmss");

  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;
  private final FreeNames names;

  RestorePlanner(Disk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
    this.names = new FreeNames(disk);
  }

  /**
   * Works out a restore. Reads the copy and the present file in full.
   *
   * @param work when the work in the copy was done, for the name of a file put beside
   */
  public RestorePlan plan(RestoreMode mode, Path source, Path live, Instant work, ZoneId zone)
      throws IOException {
    return plan(mode, source, live, work, zone, live.getParent());
  }

  /**
   * @param elsewhere folder for a file that goes neither in the place of the live one nor beside
   */
  public RestorePlan plan(
      RestoreMode mode, Path source, Path live, Instant work, ZoneId zone, Path elsewhere)
      throws IOException {
    ContentId content = publisher.identify(source);
    Path target =
        switch (mode) {
          case REPLACE -> live;
          case BESIDE -> names.beside(live, "-from-" + TIME.format(work.atZone(zone)));
          case NEXT -> names.nextNumber(live);
          case BRANCH -> names.beside(live, "-trial");
          case ELSEWHERE -> names.freeOrItself(elsewhere.resolve(live.getFileName()));
        };
    Optional<FileFacts> there = disk.facts(target);
    if (there.filter(f -> !f.isFile()).isPresent()) {
      throw new IOException(target + " is not a plain file. Nothing was touched");
    }
    boolean present = there.isPresent();
    Path aside = null;
    if (present) {
      String stamp = TIME.format(clock.instant().atZone(zone));
      aside = names.aside(live, "-aside-" + stamp);
    }
    Path like = disk.facts(live).isPresent() ? live : source;
    Path standing = FreeNames.standing(disk, target.getParent());
    return new RestorePlan(
        mode,
        source,
        content,
        target,
        aside,
        present ? publisher.identify(target) : null,
        there.orElse(null),
        disk.room(standing),
        like,
        abilities(standing),
        disk.cannotKeep(like));
  }

  /** As measured there, or assumed where nothing can be written. */
  Abilities abilities(Path folder) {
    try {
      return publisher.abilities(folder);
    } catch (IOException full) {
      return Abilities.ASSUMED;
    }
  }

  /**
   * Works out where the files of a step would go: beside the folder of the run, or in it where that
   * is the whole project.
   *
   * @param pieces sources, each with its name below the folder
   */
  public StepLayout layout(List<Piece> pieces, Path run, Path project, String name)
      throws IOException {
    Path parent = run.equals(project) ? run : run.getParent();
    String stem = run.equals(project) ? name : run.getFileName() + "-" + name;
    Path folder = parent.resolve(stem);
    for (int n = 2; disk.facts(folder).isPresent(); n++) {
      folder = parent.resolve(stem + "-" + n);
    }
    for (Piece piece : pieces) {
      if (!folder.resolve(piece.relative()).normalize().startsWith(folder)) {
        throw new IOException(piece.relative() + " leads out of " + folder);
      }
    }
    return new StepLayout(folder, pieces, disk.room(parent));
  }

  /** A layout as the restores it is made of. */
  public List<RestorePlan> plans(StepLayout layout) throws IOException {
    Abilities abilities = abilities(FreeNames.standing(disk, layout.folder().getParent()));
    List<RestorePlan> plans = new ArrayList<>();
    for (Piece piece : layout.pieces()) {
      plans.add(
          new RestorePlan(
              RestoreMode.BESIDE,
              piece.source(),
              piece.content(),
              layout.folder().resolve(piece.relative()),
              null,
              null,
              null,
              layout.free(),
              piece.source(),
              abilities,
              List.of()));
    }
    return plans;
  }
}
