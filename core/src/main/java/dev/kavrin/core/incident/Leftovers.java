package dev.kavrin.core.incident;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.FolderMarker;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Span;
import jakarta.annotation.Nullable;
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
  private final BackupMaker capturer;

  public Leftovers(Disk disk, Publisher publisher, BackupMaker capturer) {
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
    for (ProgramProfile.Leftover rule : project.program().leftovers()) {
      for (Path folder : rule.folders(disk, live)) {
        for (Path path : listed(disk, folder)) {
          FileFacts facts = facts(disk, path);
          if (facts != null
              && !path.equals(live)
              && rule.fits(path.getFileName().toString(), live.getFileName().toString())) {
            found.add(new Leftover(document, documentPath, path, rule.kind(), facts));
          }
        }
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
   * A leftover with the name to copy from.
   *
   * @param original where it was found
   */
  public record Held(Leftover original, Path from) {
    /** True if waiting may lose it: it has no second name, or is overwritten in place. */
    boolean cannotWait() {
      return from.equals(original.path()) || original.kind() == CopyKind.RESCUE;
    }
  }

  /**
   * Gives each leftover a second name in {@code .kavrin/held} beside it, so that deleting or
   * replacing it no longer loses it. Where that cannot be, the original is used.
   */
  public List<Held> hold(List<Leftover> leftovers, UUID incident) {
    List<Held> held = new ArrayList<>();
    for (Leftover l : leftovers) {
      Path name =
          holding(l.path().getParent())
              .resolve(incident.toString())
              .resolve(l.path().getFileName());
      try {
        publisher.hold(l.path(), name);
        held.add(new Held(l, name));
      } catch (IOException noSecondName) {
        held.add(new Held(l, l.path()));
      }
    }
    return held;
  }

  private static Path holding(Path folder) {
    return folder.resolve(FolderMarker.FOLDER).resolve("held");
  }

  /** What was held of a document and not yet copied, as when Kavrin was stopped in between. */
  public List<Held> stillHeld(ProjectRecord project, UUID document, String documentPath) {
    Path live = Path.of(project.folder()).resolve(documentPath);
    List<Held> held = new ArrayList<>();
    for (ProgramProfile.Leftover rule : project.program().leftovers()) {
      for (Path folder : rule.folders(disk, live)) {
        for (Path incident : listed(disk, holding(folder))) {
          for (Path name : listed(disk, incident)) {
            FileFacts facts = facts(disk, name);
            String own = name.getFileName().toString();
            if (facts != null && rule.fits(own, live.getFileName().toString())) {
              held.add(
                  new Held(
                      new Leftover(document, documentPath, folder.resolve(own), rule.kind(), facts),
                      name));
            }
          }
        }
      }
    }
    return held;
  }

  private static List<Path> listed(Disk disk, Path folder) {
    try {
      return disk.list(folder);
    } catch (IOException absent) {
      return List.of();
    }
  }

  @Nullable
  private static FileFacts facts(Disk disk, Path file) {
    try {
      return disk.facts(file).filter(FileFacts::isFile).orElse(null);
    } catch (IOException unreadable) {
      return null;
    }
  }

  /** Copies what was held into the recovery folders and lets go of its second name. */
  public void secure(ProjectRecord project, Held held) throws IOException {
    Leftover original = held.original();
    try {
      capturer.capture(
          new BackupOrder(
              project,
              original.document(),
              original.documentPath(),
              held.from(),
              original.path(),
              original.kind(),
              CopyKind.SECURED,
              Span.at(original.facts().modified()),
              "secured",
              null,
              null,
              BackupOrder.How.ANYTHING));
    } catch (NoSuchFileException vanished) {
      return;
    }
    if (!held.from().equals(original.path())) {
      publisher.purge(held.from());
    }
  }
}
