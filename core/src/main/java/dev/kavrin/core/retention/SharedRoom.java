package dev.kavrin.core.retention;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.keep.BinLimit;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.keep.RoomShares;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/**
 * Limited room that the versions of several documents share, those that wait in the bin included.
 *
 * @param bytes they may take together
 */
public record SharedRoom(List<Holding> holdings, long bytes) {
  /** A project's versions in one of its backup folders. */
  public record Holding(BackupFolders folders, BackupFolder folder, ProjectRecord project) {
    List<UUID> documents() {
      return folder.history().documents(project.id()).stream()
          .map(JournalEntry.DocumentSet::id)
          .toList();
    }
  }

  /**
   * What a document would have to give.
   *
   * @param states its versions that go
   */
  public record Going(Holding holding, UUID document, Set<String> states) {
    /** The backups that these are. */
    public List<BackupRecord> backups() {
      return holding.folder().history().captures(document).stream()
          .filter(b -> states.contains(b.state()))
          .toList();
    }

    /** Bytes they take. */
    public long bytes() {
      return backups().stream().mapToLong(holding.folder().history()::stored).sum();
    }
  }

  /** One document's part, with where it lies. */
  private record Part(Holding holding, UUID document, RoomShares.Share share, Set<String> stay) {}

  public List<BackupFolder> folders() {
    return holdings.stream().map(Holding::folder).distinct().toList();
  }

  /** Bytes taken now, in the bins too. */
  public long taken() {
    long binned =
        folders().stream()
            .map(BackupFolder::history)
            .flatMap(history -> history.bin().stream().map(history::stored))
            .mapToLong(Long::longValue)
            .sum();
    return kept() + binned;
  }

  /** Bytes taken now, without those in the bins. */
  public long kept() {
    long kept = 0;
    for (Holding holding : holdings) {
      History history = holding.folder().history();
      for (UUID document : holding.documents()) {
        kept += history.captures(document).stream().mapToLong(history::stored).sum();
      }
    }
    return kept;
  }

  /** What goes so that the rest fits; nothing is done. */
  public List<Going> going(Instant now) {
    long room = BinLimit.keptWithin(bytes);
    if (kept() <= room) {
      return List.of();
    }
    List<Part> parts = parts(now);
    List<Set<String>> beyond = RoomShares.beyond(parts.stream().map(Part::share).toList(), room);
    List<Going> going = new ArrayList<>();
    for (int i = 0; i < parts.size(); i++) {
      Part part = parts.get(i);
      Set<String> states = new HashSet<>(beyond.get(i));
      states.removeAll(part.stay());
      if (!states.isEmpty()) {
        going.add(new Going(part.holding(), part.document(), states));
      }
    }
    return going;
  }

  /** Of what was to go, what is still to go. */
  Set<String> still(Going shown, Instant now) {
    return going(now).stream()
        .filter(g -> g.document().equals(shown.document()) && g.holding().equals(shown.holding()))
        .findFirst()
        .map(Going::states)
        .orElse(Set.of());
  }

  private List<Part> parts(Instant now) {
    List<Part> parts = new ArrayList<>();
    for (Holding holding : holdings) {
      for (UUID document : holding.documents()) {
        parts.add(part(holding, document, now));
      }
    }
    return parts;
  }

  private static Part part(Holding holding, UUID document, Instant now) {
    History history = holding.folder().history();
    KeepInputs inputs = new KeepInputs(history, document);
    List<KeepState> states = inputs.states();
    RoomShares.Share share =
        new RoomShares.Share(
            states, Retention.decide(holding.project(), document, history, states, now).kept());
    Set<String> stay = new HashSet<>();
    inputs.protecting().stream().map(BackupRecord::state).forEach(stay::add);
    return new Part(holding, document, share, stay);
  }
}
