package dev.kavrin.core.offsite;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.KeepInputs;
import dev.kavrin.core.journal.ProjectRecord;
import dev.kavrin.core.journal.StoreAddress;
import dev.kavrin.core.keep.Counts;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.keep.KeepState;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.retention.Retention;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;

/** What the rules of a store want there and what they no longer want. Pure. */
final class Outgoing {
  private Outgoing() {}

  /** The newest of each document before the others, whose loss would cost less. */
  private record Ranked(int rank, BackupRecord backup) {}

  /** Backups that a store shall have and has not, the most urgent first. */
  static List<BackupRecord> missing(
      ProjectRecord project, StoreAddress store, History here, History there, Instant now) {
    List<Ranked> ranked = new ArrayList<>();
    for (DocumentSet document : here.documents(project.id())) {
      List<BackupRecord> missing = missing(project, store, document.id(), here, there, now);
      for (int i = 0; i < missing.size(); i++) {
        ranked.add(new Ranked(i, missing.get(i)));
      }
    }
    return ranked.stream()
        .sorted(
            Comparator.comparingInt(Ranked::rank)
                .thenComparing(r -> r.backup().workTo(), Comparator.reverseOrder()))
        .map(Ranked::backup)
        .toList();
  }

  private static List<BackupRecord> missing(
      ProjectRecord project,
      StoreAddress store,
      UUID document,
      History here,
      History there,
      Instant now) {
    Set<ContentId> counted = counted(here, store, document);
    List<BackupRecord> candidates =
        here.captures(document).stream()
            .filter(b -> b.kind() != CopyKind.AS_WRITTEN)
            .filter(b -> !here.isFaulty(b.path()) && !counted.contains(b.content()))
            .toList();
    if (candidates.isEmpty()) {
      return candidates;
    }
    Map<String, KeepState> states = new HashMap<>();
    new KeepInputs(there, document).states().forEach(s -> states.put(s.id(), s));
    new KeepInputs(here, document)
        .states().stream().filter(s -> !s.asWritten()).forEach(s -> states.put(s.id(), s));
    KeepDecision kept =
        Retention.decide(ruled(project, store), document, here, List.copyOf(states.values()), now);
    Set<String> protecting = protecting(here, document);
    return candidates.stream()
        .filter(b -> kept.kept().containsKey(b.state()) || protecting.contains(b.state()))
        .sorted(
            Comparator.comparing((BackupRecord b) -> !protecting.contains(b.state()))
                .thenComparing(BackupRecord::workTo, Comparator.reverseOrder()))
        .toList();
  }

  private static Set<ContentId> counted(History here, StoreAddress store, UUID document) {
    return new Elsewhere(here)
        .copies(document).stream()
            .filter(c -> c.store().equals(store.id()) && c.counts())
            .map(CopyElsewhere::content)
            .collect(Collectors.toSet());
  }

  private static Set<String> protecting(History history, UUID document) {
    return new KeepInputs(history, document)
        .protecting().stream().map(BackupRecord::state).collect(Collectors.toSet());
  }

  /** Versions in the store that its rules no longer keep; never the newest whole one there. */
  static Set<String> going(
      ProjectRecord project, StoreAddress store, UUID document, History there, Instant now) {
    KeepInputs inputs = new KeepInputs(there, document);
    Set<String> going =
        Retention.decide(ruled(project, store), document, there, inputs.states(), now)
            .dropped()
            .stream()
            .collect(Collectors.toSet());
    going.removeAll(protecting(there, document));
    return going;
  }

  /** The project as if the store's own keep rules were its plan's. */
  private static ProjectRecord ruled(ProjectRecord project, StoreAddress store) {
    Counts own = store.keep();
    return own == null ? project : project.keptBy(own);
  }
}
