package dev.kavrin.server.backup;

import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.FolderAwayException;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.lane.Lane;
import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What is looked at in one project again and again, and what is then done in its lanes. */
final class ProjectLook {
  private static final Logger LOG = LoggerFactory.getLogger(ProjectLook.class);
  private static final Duration DISCOVERY = Duration.ofSeconds(10);

  /** Each copy is read again after so long, one at a time. */
  private static final Duration REREAD = Duration.ofDays(14);

  private final DocumentFinder finder;
  private final ProjectChanges changes;
  private final WorkHours hours;
  private final Attempts attempts;
  private final Clockwork clock;
  private final Map<UUID, Instant> lastFound = new ConcurrentHashMap<>();

  ProjectLook(
      DocumentFinder finder,
      ProjectChanges changes,
      WorkHours hours,
      Attempts attempts,
      Clockwork clock) {
    this.finder = finder;
    this.changes = changes;
    this.hours = hours;
    this.attempts = attempts;
    this.clock = clock;
  }

  /**
   * Has a project looked at; returns at once.
   *
   * @param beat true now and then: what is rarely due is done, too
   */
  void send(Kept kept, boolean beat) {
    String folder = kept.project().folder();
    kept.lanes().look("watching " + folder, () -> look(kept));
    boolean discover =
        Duration.between(
                    lastFound.getOrDefault(kept.project().id(), Instant.EPOCH), clock.instant())
                .abs()
                .compareTo(DISCOVERY)
            >= 0;
    if (discover) {
      lastFound.put(kept.project().id(), clock.instant());
      kept.lanes()
          .run(Lane.ASKED, 0, "looking for documents in " + folder, () -> finder.look(kept));
      behind(
          kept,
          Lane.LARGE,
          "reading backups again of " + folder,
          k -> {
            k.recheck().one();
            k.retention().rereadOldest(REREAD);
          });
    }
    if (beat) {
      behind(kept, 0, "emptying the bin of " + folder, k -> k.retention().emptyBin());
      behind(
          kept,
          Lane.LARGE,
          "compacting older versions of " + folder,
          k -> k.older().tick(k.project()));
    }
  }

  private interface Chore {
    void of(Kept kept) throws IOException;
  }

  private static void behind(Kept kept, long bytes, String what, Chore chore) {
    kept.lanes()
        .run(
            Lane.BULK,
            bytes,
            what,
            () -> {
              if (kept.watch().standsBack().isEmpty()) {
                chore.of(kept);
              }
            });
  }

  private void look(Kept kept) throws IOException {
    String folder = kept.project().folder();
    kept.folders().look();
    for (BackupFolder resting : kept.folders().all()) {
      hours.why(resting.root()).ifPresent(why -> kept.folders().standBack(resting, why));
    }
    kept.folder().requireHere();
    if (!finder.isHere(Path.of(folder))) {
      throw new FolderAwayException(Path.of(folder));
    }
    attempts.run("noticing crashes in " + folder, () -> notice(kept));
    if (!kept.watch().isOutOfHours()) {
      attempts.run("keeping what the program writes in " + folder, () -> keepAsWritten(kept));
    }
    kept.watch().tick();
    if (!kept.watch().isOutOfHours() && changes.isChanged(kept)) {
      kept.lanes()
          .run(
              Lane.BULK,
              0,
              "applying the changed plan of " + folder,
              () -> changes.applyChanged(kept));
    }
    behind(
        kept,
        0,
        "bringing the backup folders of " + folder + " up to date",
        k -> {
          k.sync().tick(k.project());
          FolderMoves.goOn(k, clock);
        });
    sendElsewhere(kept);
  }

  /** With the large, so that other folders here are brought up to date meanwhile. */
  private static void sendElsewhere(Kept kept) {
    behind(
        kept,
        Lane.LARGE,
        "sending copies of " + kept.project().folder() + " elsewhere",
        k -> k.offsite().tick(k.project()));
  }

  private static void keepAsWritten(Kept kept) throws IOException {
    boolean nobodyKnown = kept.project().program().process().isEmpty();
    boolean mayWrite = nobodyKnown || kept.incidents().programRuns(kept.project());
    kept.asWritten().tick(kept.project(), mayWrite, kept.watch().standsBack().isEmpty());
  }

  private void notice(Kept kept) throws IOException {
    Optional<JournalEntry.IncidentSet> incident = kept.incidents().tick(kept.project());
    incident.ifPresent(i -> LOG.info("Incident in {}: {}", kept.project().folder(), i.evidence()));
    kept.incidents().secure(kept.project());
  }
}
