package dev.kavrin.core.store;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.trail.CopyKind;
import dev.kavrin.core.trail.ProgramSheet;
import dev.kavrin.core.units.Span;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;

/**
 * What a program leaves behind: found by its sheet, held by a second name at once, then copied. The
 * next start of the program may overwrite all of it.
 */
public final class Leftovers {
  private final Disk disk;
  private final Publisher publisher;
  private final Capturer capturer;

  public Leftovers(Disk disk, Publisher publisher, Capturer capturer) {
    this.disk = disk;
    this.publisher = publisher;
    this.capturer = capturer;
  }

  /** A file found where the sheet says, most volatile kinds first. */
  public record Leftover(
      UUID document, String documentPath, Path path, CopyKind kind, FileFacts facts) {}

  /** Files that belong to a document by the program's sheet; links are not followed. */
  public static List<Leftover> find(
      Disk disk, ProjectRecord project, UUID document, String documentPath) {
    Path live = Path.of(project.folder()).resolve(documentPath);
    List<Leftover> found = new ArrayList<>();
    for (ProgramSheet.Leftover rule : project.program().leftovers()) {
      Path folder = rule.folderFor(live.getParent());
      try {
        for (Path path : disk.list(folder)) {
          FileFacts facts = disk.facts(path).orElse(null);
          if (facts != null
              && facts.isFile()
              && !path.equals(live)
              && rule.fits(path.getFileName().toString(), live.getFileName().toString())) {
            found.add(new Leftover(document, documentPath, path, rule.kind(), facts));
          }
        }
      } catch (IOException folderIsAbsent) {
        continue;
      }
    }
    found.sort(Comparator.comparingInt(Leftovers::volatility).thenComparing(Leftover::path));
    return found;
  }

  private static int volatility(Leftover leftover) {
    return switch (leftover.kind()) {
      case RESCUE -> 0;
      case AUTOSAVE -> 1;
      default -> 2;
    };
  }

  /**
   * Gives each leftover a second name in {@code .kavrin/held} beside it, so that deleting or
   * replacing it no longer loses it. Where that cannot be, the original is used.
   *
   * @return the leftovers under the names to copy from
   */
  public List<Leftover> hold(List<Leftover> leftovers, UUID incident) {
    List<Leftover> held = new ArrayList<>();
    for (Leftover l : leftovers) {
      Path name =
          l.path()
              .getParent()
              .resolve(PlaceMarker.FOLDER)
              .resolve("held")
              .resolve(incident.toString())
              .resolve(l.path().getFileName());
      try {
        publisher.hold(l.path(), name);
        held.add(new Leftover(l.document(), l.documentPath(), name, l.kind(), l.facts()));
      } catch (IOException noSecondName) {
        held.add(l);
      }
    }
    return held;
  }

  /**
   * Copies what was held into the recovery folder and lets go of the second names.
   *
   * @param original where each was found, same order as {@code held}
   * @return one record per leftover still there
   */
  public List<CaptureRecord> secure(
      ProjectRecord project, List<Leftover> original, List<Leftover> held) throws IOException {
    List<CaptureRecord> secured = new ArrayList<>();
    for (int i = 0; i < held.size(); i++) {
      Leftover from = held.get(i);
      try {
        secured.add(
            capturer
                .capture(
                    new CopyOrder(
                        project,
                        from.document(),
                        from.documentPath(),
                        from.path(),
                        original.get(i).path(),
                        from.kind(),
                        CopyKind.SECURED,
                        Span.at(from.facts().modified()),
                        "secured",
                        null,
                        null,
                        CopyOrder.How.ANYTHING))
                .capture());
        if (!from.path().equals(original.get(i).path())) {
          publisher.purge(from.path());
        }
      } catch (NoSuchFileException vanished) {
        continue;
      }
    }
    return secured;
  }
}
