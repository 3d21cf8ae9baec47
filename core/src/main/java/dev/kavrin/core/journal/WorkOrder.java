package dev.kavrin.core.journal;

import dev.kavrin.core.naming.NameFields;
import dev.kavrin.core.naming.NamePattern;
import dev.kavrin.core.units.Span;
import dev.kavrin.core.version.Chronicle;
import dev.kavrin.core.version.VersionOrder;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;

/**
 * When the work in a document's backups was done, as far as all that is written of them tells.
 *
 * @param times by version, where more tells than the time of the file
 * @param guesses versions of which nothing tells whether they are older or newer than others
 */
record WorkOrder(Map<String, Instant> times, Set<String> guesses) {
  private static final WorkOrder AS_SEEN = new WorkOrder(Map.of(), Set.of());

  /** What was backed up as it changed needs no more than the moment it was seen. */
  static WorkOrder of(History history, UUID document, List<BackupRecord> backups) {
    ProjectRecord project =
        history
            .document(document)
            .flatMap(d -> history.project(d.project()))
            .filter(p -> backups.stream().anyMatch(b -> !b.wasSeenAsNew()))
            .orElse(null);
    if (project == null) {
      return AS_SEEN;
    }
    String name = Path.of(history.document(document).orElseThrow().path()).getFileName().toString();
    List<Chronicle.Copy> copies =
        backups.stream().filter(b -> b.role() == null).map(b -> copy(b, project, name)).toList();
    Map<String, Instant> times = new HashMap<>();
    Set<String> guesses = new HashSet<>();
    for (VersionOrder.Placed placed : new Chronicle(ZoneId.of(project.zone())).order(copies)) {
      times.put(placed.state(), placed.at());
      if (!placed.orderKnown()) {
        guesses.add(placed.state());
      }
    }
    return new WorkOrder(times, guesses);
  }

  private static Chronicle.Copy copy(BackupRecord backup, ProjectRecord project, String name) {
    Path source = Path.of(backup.source());
    boolean seen = backup.wasSeenAsNew();
    String own = source.getFileName().toString();
    NamePattern pattern =
        seen ? null : Chronicle.pattern(project.program(), backup.sourceKind(), own, name);
    return new Chronicle.Copy(
        backup.state(),
        source,
        backup.workTo(),
        null,
        Chronicle.isElsewhere(backup.sourceKind(), source, pattern, Path.of(project.folder())),
        pattern,
        pattern == null ? NameFields.of("", "") : Chronicle.fields(pattern, own),
        seen ? new Span(backup.workFrom(), backup.workTo()) : null,
        null,
        null);
  }

  /** When its work was done. */
  Instant of(BackupRecord backup) {
    return times.getOrDefault(backup.state(), backup.workTo());
  }
}
