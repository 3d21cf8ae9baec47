package dev.kavrin.core.offsite;

import dev.kavrin.core.journal.BackupFolders;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.CopyElsewhere;
import dev.kavrin.core.journal.Elsewhere;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.JournalEntry.DocumentSet;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.journal.ProjectRecord;
import java.io.IOException;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;

/** Copies that count here while the journal there does not tell of them: a piece of it was lost. */
record Untold(BackupFolders folders, UUID store, History there, InstantSource clock) {

  /** What the journal there is to be told again; what nobody can tell any more counts no longer. */
  List<JournalEntry> toTell(ProjectRecord project) throws IOException {
    List<JournalEntry> again = new ArrayList<>();
    History here = folders.history();
    for (DocumentSet document : here.documents(project.id())) {
      Set<String> told =
          there.captures(document.id()).stream()
              .map(BackupRecord::path)
              .collect(Collectors.toSet());
      for (CopyElsewhere copy : new Elsewhere(here).copies(document.id())) {
        if (copy.store().equals(store) && copy.counts() && !told.contains(copy.object())) {
          again.addAll(toTell(here, document.id(), copy));
        }
      }
    }
    return again;
  }

  private List<JournalEntry> toTell(History here, UUID document, CopyElsewhere copy)
      throws IOException {
    Instant now = clock.instant();
    Optional<BackupRecord> backup =
        here.captures(document).stream()
            .filter(b -> b.content().equals(copy.content()))
            .findFirst();
    if (backup.isEmpty()) {
      folders.record(copy.faulty(now, "The journal there lost what it is of."));
      return List.of();
    }
    Operation made = Operation.of(new Operation.Backup(backup.get().at(copy.object())));
    return List.of(new JournalEntry.Done(now, made), copy);
  }
}
