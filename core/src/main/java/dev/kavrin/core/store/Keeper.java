package dev.kavrin.core.store;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.keep.KeepDecision;
import dev.kavrin.core.plan.Plan;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/** Applies a plan's keep rules to a recovery folder: journal, then bin, much later gone. */
public final class Keeper {
  /** How long a dropped copy can be had back. */
  public static final Duration BIN_TIME = Duration.ofDays(14);

  private final Disk disk;
  private final Publisher publisher;
  private final RecoveryFolder recovery;
  private final InstantSource clock;
  private final java.util.concurrent.atomic.AtomicBoolean held =
      new java.util.concurrent.atomic.AtomicBoolean();

  public Keeper(Disk disk, Publisher publisher, RecoveryFolder recovery, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.recovery = recovery;
    this.clock = clock;
  }

  /** While held, nothing is dropped and nothing leaves the bin for good. */
  public void holdDrops(boolean hold) {
    held.set(hold);
  }

  /** What a plan would keep and drop of a document now; nothing is done. */
  public KeepDecision decide(ProjectRecord project, Plan plan, UUID document) {
    List<Instant> incidents =
        recovery.history().incidents().stream()
            .filter(i -> i.documents().contains(document))
            .map(JournalEntry.IncidentSet::to)
            .toList();
    return KeepDecision.of(
        plan.keep().rule(clock.instant(), ZoneId.of(project.zone()), incidents),
        recovery.history().keepStates(document));
  }

  /**
   * Drops what the plan no longer keeps.
   *
   * @return dropped copies; none if the protecting copy fails its re-reading
   */
  public List<CaptureRecord> apply(ProjectRecord project, UUID document) throws IOException {
    KeepDecision decision = decide(project, project.plan(), document);
    if (held.get() || decision.dropped().isEmpty() || !protectedByWholeCopy(document)) {
      return List.of();
    }
    List<CaptureRecord> dropped = new ArrayList<>();
    for (CaptureRecord capture : recovery.history().captures(document)) {
      if (decision.dropped().contains(capture.state())) {
        drop(capture, "no longer kept by the plan");
        dropped.add(capture);
      }
    }
    return dropped;
  }

  private boolean protectedByWholeCopy(UUID document) throws IOException {
    Optional<CaptureRecord> copy = recovery.history().protecting(document);
    if (copy.isEmpty()) {
      return false;
    }
    Path file = recovery.absolute(copy.get().path());
    boolean whole =
        disk.facts(file).isPresent() && publisher.identify(file).equals(copy.get().content());
    if (!whole) {
      recovery.record(
          new JournalEntry.Judged(
              clock.instant(),
              copy.get().path(),
              Verdict.DAMAGED,
              "Re-read before a drop: it is not what was written. Nothing was dropped."));
    }
    return whole;
  }

  void drop(CaptureRecord capture, String why) throws IOException {
    Path from = recovery.absolute(capture.path());
    UUID op = UUID.randomUUID();
    Path to = recovery.bin().resolve(op + "." + from.getFileName());
    to = to.getFileName().toString().length() > 200 ? recovery.bin().resolve(op.toString()) : to;
    recovery.record(
        new JournalEntry.Intent(
            clock.instant(),
            op,
            JournalEntry.Deed.DROP,
            capture.document(),
            capture.path(),
            recovery.relative(to),
            null));
    if (disk.facts(from).isPresent()) {
      publisher.move(from, to);
    }
    recovery.record(
        new JournalEntry.Dropped(clock.instant(), op, capture.path(), recovery.relative(to), why));
  }

  /** Takes a copy back out of the bin, under its former name. */
  public void takeBack(String bin) throws IOException {
    History.Binned binned =
        recovery.history().bin().stream()
            .filter(b -> b.bin().equals(bin))
            .findFirst()
            .orElseThrow(() -> new java.nio.file.NoSuchFileException(bin));
    UUID op = UUID.randomUUID();
    recovery.record(
        new JournalEntry.Intent(
            clock.instant(),
            op,
            JournalEntry.Deed.RETURN,
            binned.capture().document(),
            bin,
            binned.capture().path(),
            null));
    publisher.move(recovery.absolute(bin), recovery.absolute(binned.capture().path()));
    recovery.record(new JournalEntry.Returned(clock.instant(), op, bin, binned.capture().path()));
  }

  /** Deletes for good what has been in the bin for {@link #BIN_TIME}. */
  public int emptyBin() throws IOException {
    int purged = 0;
    if (held.get()) {
      return 0;
    }
    Instant before = clock.instant().minus(BIN_TIME);
    for (History.Binned binned : recovery.history().bin()) {
      if (binned.since().isBefore(before)) {
        UUID op = UUID.randomUUID();
        recovery.record(
            new JournalEntry.Intent(
                clock.instant(),
                op,
                JournalEntry.Deed.PURGE,
                binned.capture().document(),
                binned.bin(),
                null,
                null));
        if (disk.facts(recovery.absolute(binned.bin())).isPresent()) {
          publisher.purge(recovery.absolute(binned.bin()));
        }
        recovery.record(new JournalEntry.Purged(clock.instant(), op, binned.bin()));
        purged++;
      }
    }
    return purged;
  }
}
