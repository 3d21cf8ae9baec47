package dev.kavrin.core.offsite;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.SetRecord;
import dev.kavrin.core.journal.SetRecord.Member;
import dev.kavrin.core.journal.StoreAddress;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;

/**
 * A version that stands in a store, and whole in no backup folder here.
 *
 * @param state its id
 * @param step what it is in its run; null for a version of one file
 * @param backups what is to be fetched, as the store's journal tells of it; each path is an
 *     object's name
 * @param verified when the one that was read back longest ago was read there
 * @param leaving since when the store's rules no longer keep all of it; null if they do
 */
public record OnlyThere(
    StoreAddress store,
    String state,
    @Nullable SetRecord step,
    List<BackupRecord> backups,
    Instant verified,
    @Nullable Instant leaving) {

  /** When the newest of it was worked on. */
  public Instant work() {
    return backups.stream().map(BackupRecord::workTo).max(Comparator.naturalOrder()).orElseThrow();
  }

  /** To be fetched. */
  public long bytes() {
    return backups.stream().mapToLong(b -> b.content().length()).sum();
  }

  /** Those of a document; a step of a run only if all of it that is not here is there. */
  static List<OnlyThere> of(
      StoreAddress store, BackupFolders folders, History there, UUID document) {
    Set<ContentId> here = here(folders, document);
    Map<String, CopyElsewhere> counting =
        new Elsewhere(folders.history())
            .copies(document).stream()
                .filter(c -> c.store().equals(store.id()) && c.counts())
                .collect(Collectors.toMap(CopyElsewhere::object, c -> c));
    Map<ContentId, BackupRecord> lacking = new HashMap<>();
    List<OnlyThere> found = new ArrayList<>();
    for (BackupRecord backup : there.captures(document)) {
      if (!here.contains(backup.content()) && counting.containsKey(backup.path())) {
        lacking.put(backup.content(), backup);
        if (backup.role() == null) {
          found.add(of(store, backup.state(), null, List.of(backup), counting));
        }
      }
    }
    for (SetRecord set : there.sets(document)) {
      List<ContentId> wanted =
          set.members().stream().map(Member::content).filter(c -> !here.contains(c)).toList();
      if (!wanted.isEmpty() && lacking.keySet().containsAll(wanted)) {
        List<BackupRecord> backups = wanted.stream().distinct().map(lacking::get).toList();
        found.add(of(store, set.state(), set, backups, counting));
      }
    }
    return found;
  }

  private static Set<ContentId> here(BackupFolders folders, UUID document) {
    Set<ContentId> here = new HashSet<>();
    for (BackupFolder folder : folders.all()) {
      History history = folder.history();
      history.captures(document).stream()
          .filter(b -> !history.isFaulty(b.path()))
          .forEach(b -> here.add(b.content()));
    }
    return here;
  }

  private static OnlyThere of(
      StoreAddress store,
      String state,
      @Nullable SetRecord step,
      List<BackupRecord> backups,
      Map<String, CopyElsewhere> counting) {
    List<CopyElsewhere> copies = backups.stream().map(b -> counting.get(b.path())).toList();
    return new OnlyThere(
        store,
        state,
        step,
        backups,
        copies.stream().map(CopyElsewhere::verified).min(Comparator.naturalOrder()).orElseThrow(),
        copies.stream()
            .map(CopyElsewhere::leaving)
            .filter(Objects::nonNull)
            .min(Comparator.naturalOrder())
            .orElse(null));
  }
}
