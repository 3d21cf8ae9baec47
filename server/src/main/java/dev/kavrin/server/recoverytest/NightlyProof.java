package dev.kavrin.server.recoverytest;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry.Rehearsed;
import dev.kavrin.core.journal.Proof;
import dev.kavrin.core.recoverytest.RecoveryTest;
import dev.kavrin.core.restore.StepLayout;
import dev.kavrin.server.backup.Engine;
import dev.kavrin.server.backup.Kept;
import dev.kavrin.server.platform.Ids;
import dev.kavrin.server.platform.ProblemException;
import dev.kavrin.server.platform.Scratch;
import dev.kavrin.server.project.Document;
import dev.kavrin.server.project.ProjectService;
import dev.kavrin.server.version.VersionFiles;
import dev.kavrin.server.version.VersionService;
import dev.kavrin.server.version.VersionsView.StateView;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/**
 * With nobody there: every so many days the newest copy of each document is restored to the side
 * and read whole.
 */
@Component
class NightlyProof {
  static final String BY = "unattended";
  private static final Logger LOG = LoggerFactory.getLogger(NightlyProof.class);
  private static final String WAY = "newest copy restored to the side and read whole";

  private final Engine engine;
  private final ProjectService projects;
  private final VersionService trail;
  private final VersionFiles files;
  private final RecoveryTests records;
  private final Scratch scratch;
  private final Publisher publisher;
  private final Inspector inspector;
  private final InstantSource clock;

  NightlyProof(
      Engine engine,
      ProjectService projects,
      VersionService trail,
      VersionFiles files,
      RecoveryTests records,
      Scratch scratch,
      Publisher publisher,
      Inspector inspector,
      InstantSource clock) {
    this.engine = engine;
    this.projects = projects;
    this.trail = trail;
    this.files = files;
    this.records = records;
    this.scratch = scratch;
    this.publisher = publisher;
    this.inspector = inspector;
    this.clock = clock;
  }

  /** One document at a time, when nothing else is to be disturbed. */
  @Scheduled(fixedDelay = 120_000, initialDelay = 90_000)
  void proveNext() {
    if (engine.projects().stream().anyMatch(k -> k.watch().standsBack().isPresent())) {
      return;
    }
    try {
      for (Kept kept : projects.watched()) {
        Duration every = kept.project().plan().proving().unattended();
        for (Document document : projects.documents(kept.project().id())) {
          if (!every.isZero() && isOwed(document.id(), every) && prove(document.id()).isPresent()) {
            return;
          }
        }
      }
    } catch (DataAccessException | TransactionException away) {
      LOG.debug("Proofs wait for the records: {}", away.getMessage());
    } catch (IOException | ProblemException failed) {
      LOG.warn("An unattended proof could not be made: {}", failed.getMessage());
    }
  }

  private boolean isOwed(UUID document, Duration every) {
    Instant since = clock.instant().minus(every);
    return records.ofDocument(document).stream()
        .noneMatch(r -> r.proof() != null && r.proof().by().equals(BY) && r.at().isAfter(since));
  }

  /** Empty if there is no copy yet. */
  Optional<Rehearsed> prove(UUID id) throws IOException {
    List<StepLayout.Piece> pieces = newest(id);
    if (pieces.isEmpty()) {
      return Optional.empty();
    }
    long bytes = pieces.stream().mapToLong(p -> p.content().length()).sum();
    long began = System.nanoTime();
    List<String> faults = scratch.with(bytes, folder -> read(pieces, folder));
    Kept kept = projects.kept(projects.document(id).project());
    Proof proof =
        new Proof(
            BY,
            WAY,
            RecoveryTest.planDigest(kept.project().planFor(id)),
            null,
            null,
            null,
            null,
            pieces.get(0).source().toString(),
            faults.isEmpty() ? Verdict.INTACT : Verdict.DAMAGED,
            faults.isEmpty(),
            String.join("; ", faults),
            Duration.ofNanos(System.nanoTime() - began));
    Rehearsed done = new Rehearsed(clock.instant(), Ids.next(clock.instant()), id, "Kavrin", proof);
    records.record(done);
    return Optional.of(done);
  }

  private List<String> read(List<StepLayout.Piece> pieces, Path folder) throws IOException {
    List<String> faults = new ArrayList<>();
    for (StepLayout.Piece piece : pieces) {
      Path restored = folder.resolve(piece.source().getFileName());
      ContentId content = publisher.copy(piece.source(), restored);
      String name = Path.of(piece.relative()).getFileName().toString();
      HealthReport health = inspector.inspect(restored, name);
      if (!content.equals(piece.content())) {
        faults.add(piece.source() + " is not what was written");
      } else if (!health.verdict().trustworthy()) {
        faults.add(piece.source() + ": " + health.reason());
      }
    }
    return faults;
  }

  /** Kavrin's newest full copy: of a run its newest whole step. */
  private List<StepLayout.Piece> newest(UUID id) {
    Document document = projects.document(id);
    Kept kept = projects.kept(document.project());
    Optional<StateView> step =
        trail.whole(id).states().stream()
            .filter(s -> s.step() != null && s.step().lacks().isEmpty())
            .findFirst();
    if (step.isPresent()) {
      return files.pieces(id, step.get().id());
    }
    return kept.folder().history().captures(id).stream()
        .filter(c -> c.settled() && !c.isLight() && c.verdict().trustworthy())
        .max(Comparator.comparing(BackupRecord::workTo))
        .map(
            c ->
                new StepLayout.Piece(
                    kept.folder().absolute(c.path()), c.content(), document.path()))
        .stream()
        .toList();
  }
}
