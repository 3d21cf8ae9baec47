package dev.kavrin.server.version;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.folder.FolderService;
import dev.kavrin.server.project.Document;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Copies that Kavrin did not make and that stand no longer. */
@Component
class AbsentCopies {
  private final FolderService places;
  private final VersionRows.Copies copies;
  private final Disk disk;
  private final InstantSource clock;

  AbsentCopies(FolderService places, VersionRows.Copies copies, Disk disk, InstantSource clock) {
    this.places = places;
    this.copies = copies;
    this.disk = disk;
    this.clock = clock;
  }

  /**
   * True only if its folder is here, can be looked into, and it is not in it: what cannot be looked
   * at is not gone.
   */
  private boolean isGone(CopyRow row) {
    Path file = Path.of(row.originPath);
    try {
      boolean here = places.byKey(row.placeId).filter(places::isHere).isPresent();
      if (!here) {
        return false;
      }
      if (disk.facts(file.getParent()).isPresent()) {
        disk.list(file.getParent());
      }
      return true;
    } catch (IOException cannotBeLookedInto) {
      return false;
    }
  }

  /**
   * What came of looking for what was not seen.
   *
   * @param changed something was forgotten
   * @param unsure of something nobody can tell whether it is gone
   */
  record Outcome(boolean changed, boolean unsure) {}

  Outcome forget(Document document, Set<String> seen) {
    boolean changed = false;
    boolean unsure = false;
    for (CopyRow row : copies.findByDocumentIdInAndGoneIsNull(List.of(document.key()))) {
      if (!CopyKind.valueOf(row.sourceKind).isOurs() && !seen.contains(row.originPath)) {
        boolean gone = isGone(row);
        changed |= gone;
        unsure |= !gone;
        if (gone) {
          row.gone = clock.instant();
          copies.save(row);
        }
      }
    }
    return new Outcome(changed, unsure);
  }
}
