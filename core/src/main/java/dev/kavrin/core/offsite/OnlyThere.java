package dev.kavrin.core.offsite;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.StoreAddress;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;

/**
 * A version of one file that stands in a store, and whole in no backup folder here.
 *
 * @param backup as the store's journal tells of it; its path is the object's name
 * @param verified when it was last read back there
 * @param leaving since when the store's rules no longer keep it; null if they do
 */
public record OnlyThere(
    StoreAddress store, BackupRecord backup, Instant verified, @Nullable Instant leaving) {

  /** Those of a document. What belongs to a step of a run comes back with the whole project. */
  static List<OnlyThere> of(
      StoreAddress store, BackupFolders folders, History there, UUID document) {
    Set<ContentId> here = new HashSet<>();
    for (BackupFolder folder : folders.all()) {
      History history = folder.history();
      history.captures(document).stream()
          .filter(b -> !history.isFaulty(b.path()))
          .forEach(b -> here.add(b.content()));
    }
    Map<String, CopyElsewhere> counting =
        new Elsewhere(folders.history())
            .copies(document).stream()
                .filter(c -> c.store().equals(store.id()) && c.counts())
                .collect(Collectors.toMap(CopyElsewhere::object, c -> c));
    return there.captures(document).stream()
        .filter(b -> b.role() == null && !here.contains(b.content()))
        .filter(b -> counting.containsKey(b.path()))
        .map(b -> of(store, b, counting.get(b.path())))
        .toList();
  }

  private static OnlyThere of(StoreAddress store, BackupRecord backup, CopyElsewhere copy) {
    return new OnlyThere(store, backup, copy.verified(), copy.leaving());
  }
}
