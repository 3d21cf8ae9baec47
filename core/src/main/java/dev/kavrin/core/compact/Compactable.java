package dev.kavrin.core.compact;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.plan.Compacting;
import dev.kavrin.core.profile.CopyKind;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** Which backups are to be compacted. Pure. */
final class Compactable {
  /** Shorter ones are not worth a recipe. */
  private static final long SHORTEST = 1 << 16;

  private Compactable() {}

  /** Those of a document, by birth; never one that no rule may drop. */
  static List<BackupRecord> of(History history, UUID document, Compacting wish) {
    List<BackupRecord> all = history.captures(document);
    List<BackupRecord> protecting = new KeepInputs(history, document).protecting();
    List<BackupRecord> due = new ArrayList<>();
    int sincePlain = wish.every();
    for (BackupRecord backup : all.subList(0, Math.max(0, all.size() - wish.newest()))) {
      boolean compacted = history.isCompacted(backup.path());
      boolean mayBe =
          backup.kind() != CopyKind.AS_WRITTEN
              && backup.content().length() >= SHORTEST
              && !history.isFaulty(backup.path())
              && !protecting.contains(backup)
              && Compactor.fits(backup);
      if (compacted || mayBe && sincePlain < wish.every() - 1) {
        sincePlain++;
        if (!compacted) {
          due.add(backup);
        }
      } else {
        sincePlain = 0;
      }
    }
    return due;
  }
}
