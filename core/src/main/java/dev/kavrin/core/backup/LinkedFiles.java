package dev.kavrin.core.backup;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.content.Link;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.FileFacts;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.FolderAwayException;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.naming.RelativePath;
import java.io.IOException;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/**
 * Copies what a document leans on. A linked file joins as a document of its own, so that one shared
 * by many is watched and copied once.
 */
public final class LinkedFiles {
  private final Disk disk;
  private final BackupFolders recoveries;
  private final BackupMaker maker;
  private final InstantSource clock;

  public LinkedFiles(Disk disk, BackupFolders recoveries, BackupMaker maker, InstantSource clock) {
    this.disk = disk;
    this.recoveries = recoveries;
    this.maker = maker;
    this.clock = clock;
  }

  /**
   * Copies the linked files of a state that was just copied and notes what each of them held.
   *
   * @return files that joined
   */
  public List<JournalEntry.DocumentSet> follow(
      ProjectRecord project, UUID document, Path live, BackupMaker.Result copied)
      throws IOException {
    List<JournalEntry.DocumentSet> joined = new ArrayList<>();
    List<JournalEntry.Leaned> leaned = new ArrayList<>();
    for (Link link : copied.links()) {
      Path file = resolve(live, link);
      if (file == null || !file.startsWith(project.folder())) {
        continue;
      }
      String path = RelativePath.of(project.folder(), file);
      if (!isThere(file)) {
        leaned.add(new JournalEntry.Leaned(path, null));
        continue;
      }
      Optional<JournalEntry.DocumentSet> known =
          recoveries.history().documents(project.id()).stream()
              .filter(d -> d.path().equals(path))
              .findFirst();
      JournalEntry.DocumentSet target =
          known.orElseGet(
              () ->
                  new JournalEntry.DocumentSet(
                      clock.instant(), UUID.randomUUID(), project.id(), path, true));
      if (known.isEmpty()) {
        recoveries.record(target);
        joined.add(target);
      }
      leaned.add(new JournalEntry.Leaned(path, copy(project, target, file)));
    }
    if (!leaned.isEmpty()) {
      recoveries.record(
          new JournalEntry.LinksSeen(clock.instant(), document, copied.capture().state(), leaned));
    }
    return joined;
  }

  /**
   * Null if it is being written or cannot be read now; it is copied when it can be, like any
   * document.
   */
  private ContentId copy(ProjectRecord project, JournalEntry.DocumentSet target, Path file)
      throws IOException {
    try {
      BackupOrder order =
          BackupOrder.ofLive(project, target.id(), file, "linked", BackupOrder.How.ANY_HEALTH);
      return maker.capture(order).capture().content();
    } catch (NoRoomException | FolderAwayException ours) {
      throw ours;
    } catch (IOException notNow) {
      return null;
    }
  }

  private boolean isThere(Path file) {
    try {
      return disk.facts(file).filter(FileFacts::isFile).isPresent();
    } catch (IOException unreadable) {
      return false;
    }
  }

  /** Null for what names no file here. */
  private static Path resolve(Path live, Link link) {
    try {
      return link.path().map(path -> live.resolveSibling(path).normalize()).orElse(null);
    } catch (InvalidPathException unreadable) {
      return null;
    }
  }
}
