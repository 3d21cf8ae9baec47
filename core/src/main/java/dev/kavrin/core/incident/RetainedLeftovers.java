package dev.kavrin.core.incident;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.incident.Leftovers.Leftover;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.profile.ProgramProfile;
import dev.kavrin.core.units.Span;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Keeps what a program left behind from being lost at its next start: cloned where the folder can,
 * else under a second name, which guards against deleting and renaming only, and copied at once.
 */
public final class RetainedLeftovers {
  /** A file that will not rest is copied as it is after so many tries, called unsettled. */
  private static final int TRIES = 5;

  private final Disk disk;
  private final Publisher publisher;
  private final BackupMaker backups;
  private final Map<Path, Integer> torn = new ConcurrentHashMap<>();

  public RetainedLeftovers(Disk disk, Publisher publisher, BackupMaker backups) {
    this.disk = disk;
    this.publisher = publisher;
    this.backups = backups;
  }

  /**
   * A leftover with the name to copy from.
   *
   * @param original where it was found
   * @param from its second name, or where it was found
   * @param cloned its bytes are its own: nothing the program writes reaches them
   */
  public record Retained(Leftover original, Path from, boolean cloned) {
    /** True if waiting may lose it: a program may write into it, whatever names it has. */
    boolean cannotWait() {
      return !cloned;
    }
  }

  /** Retains each in {@code .kavrin} beside it; where that cannot be, the original is used. */
  List<Retained> retain(List<Leftover> leftovers, UUID incident) {
    List<Retained> retained = new ArrayList<>();
    for (Leftover l : leftovers) {
      Path name = RetainedNames.of(l.path(), incident).resolve(l.path().getFileName());
      try {
        boolean cloned = publisher.retain(l.path(), name) == Publisher.Retained.CLONED;
        retained.add(new Retained(l, name, cloned));
      } catch (IOException noSecondName) {
        retained.add(new Retained(l, l.path(), false));
      }
    }
    return retained;
  }

  /**
   * What was retained of a document and not yet copied, as when Kavrin was stopped in between; what
   * was written first comes first.
   */
  List<Retained> still(ProjectRecord project, UUID document, String documentPath) {
    Path live = Path.of(project.folder()).resolve(documentPath);
    List<Retained> retained = new ArrayList<>();
    for (ProgramProfile.Leftover rule : project.program().leftovers()) {
      for (Path folder : rule.folders(disk, live)) {
        for (Path incident : Leftovers.listed(disk, RetainedNames.in(folder))) {
          for (Path name : Leftovers.listed(disk, incident)) {
            FileFacts facts = Leftovers.facts(disk, name);
            String own = name.getFileName().toString();
            if (facts != null && rule.fits(own, live.getFileName().toString())) {
              Leftover original =
                  new Leftover(document, documentPath, folder.resolve(own), rule.kind(), facts);
              retained.add(new Retained(original, name, isAlone(original, facts)));
            }
          }
        }
      }
    }
    retained.sort(Comparator.comparing(r -> r.original().facts().modified()));
    return retained;
  }

  /** True if no program writes into it under the name it had. */
  private boolean isAlone(Leftover original, FileFacts retained) {
    FileFacts there = Leftovers.facts(disk, original.path());
    return there == null || !there.key().equals(retained.key());
  }

  /**
   * Copies what was retained into the backup folders and lets go of its second name.
   *
   * @throws SourceException.StillWritten it was torn by a write; the copy was thrown away
   */
  void secure(ProjectRecord project, Retained retained) throws IOException {
    boolean asItIs = torn.getOrDefault(retained.from(), 0) >= TRIES;
    try {
      copy(
          project,
          retained,
          CopyKind.SECURED,
          asItIs ? BackupOrder.How.ANYTHING : BackupOrder.How.ANY_HEALTH);
    } catch (NoSuchFileException vanished) {
      return;
    } catch (SourceException.StillWritten moving) {
      torn.merge(retained.from(), 1, Integer::sum);
      throw moving;
    }
    torn.remove(retained.from());
    letGo(retained);
  }

  /**
   * Copies it into the backup folders; what is retained stays so.
   *
   * @throws NoSuchFileException it vanished
   * @throws SourceException it was torn by a write, or is not in the state wanted
   */
  BackupMaker.Result copy(
      ProjectRecord project, Retained retained, CopyKind kind, BackupOrder.How how)
      throws IOException {
    Leftover original = retained.original();
    return backups.capture(
        new BackupOrder(
            project,
            original.document(),
            original.documentPath(),
            retained.from(),
            original.path(),
            original.kind(),
            kind,
            Span.at(original.facts().modified()),
            kind == CopyKind.SECURED ? "secured" : "as written",
            null,
            null,
            how));
  }

  /** Gives up what it was retained under; its original is left alone. */
  void letGo(Retained retained) throws IOException {
    if (!retained.from().equals(retained.original().path())) {
      publisher.release(retained.from());
    }
  }
}
