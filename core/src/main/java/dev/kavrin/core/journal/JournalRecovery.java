package dev.kavrin.core.journal;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.SameBytes;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Inspector;
import dev.kavrin.core.journal.JournalEntry.Intent;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.core.version.Manifest;
import dev.kavrin.core.version.SetRule.Role;
import jakarta.annotation.Nullable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Brings a recovery folder in order after Kavrin was killed: every intent without an end is looked
 * up on disk and either completed or given up. Run before anything else touches the folder; running
 * it again changes nothing.
 */
public final class JournalRecovery {
  private final Disk disk;
  private final Publisher publisher;
  private final Inspector inspector;
  private final BackupFolder recovery;
  private final InstantSource clock;

  public JournalRecovery(
      Disk disk,
      Publisher publisher,
      Inspector inspector,
      BackupFolder recovery,
      InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.inspector = inspector;
    this.recovery = recovery;
    this.clock = clock;
  }

  /** Settles all intents but restores, which need a person to hear of them; returns those. */
  public List<Intent> settle() throws IOException {
    recovery.requireHere();
    List<Intent> restores = new ArrayList<>();
    for (Intent intent : recovery.history().undone()) {
      switch (intent.deed()) {
        case CAPTURE, SECURE -> settleCopy(intent);
        case DROP -> settleMove(intent, true);
        case RETURN -> settleMove(intent, false);
        case PURGE -> settlePurge(intent);
        case CLEAR -> settleClear(intent);
        case RESTORE, UNDO -> restores.add(intent);
      }
    }
    clearStages(recovery.root(), 0);
    return restores;
  }

  private void settleCopy(Intent intent) throws IOException {
    Path target = recovery.absolute(intent.to());
    if (disk.facts(target).isEmpty()) {
      giveUp(intent, "nothing was published before the stop");
      return;
    }
    ContentId content = publisher.identify(target);
    String name = target.getFileName().toString();
    HealthReport report = inspector.inspect(target, name);
    Instant work = disk.facts(target).orElseThrow().modified();
    boolean secured = intent.deed() == JournalEntry.Deed.SECURE;
    recovery.record(
        new JournalEntry.Captured(
            clock.instant(),
            intent.op(),
            new BackupRecord(
                intent.document(),
                secured ? CopyKind.SECURED : CopyKind.CAPTURE,
                intent.to(),
                Manifest.ofFile(content).digest(),
                content,
                intent.from(),
                CopyKind.LIVE,
                work,
                work,
                BackupMaker.sequence(target),
                secured ? "secured" : "due",
                null,
                true,
                report.verdict(),
                report.reason(),
                0,
                role(intent),
                List.of())));
  }

  /** What the source was in its run, by its name. */
  private @Nullable Role role(Intent intent) {
    String name = Path.of(intent.from()).getFileName().toString();
    return recovery.history().projects().stream()
        .filter(p -> p.sets() != null)
        .filter(
            p ->
                recovery.history().documents(p.id()).stream()
                    .anyMatch(d -> d.id().equals(intent.document())))
        .findFirst()
        .flatMap(p -> p.sets().roleOf(name))
        .orElse(null);
  }

  private void settleMove(Intent intent, boolean toBin) throws IOException {
    Path from = recovery.absolute(intent.from());
    Path to = recovery.absolute(intent.to());
    boolean there = disk.facts(from).isPresent();
    boolean arrived = disk.facts(to).isPresent();
    if (there && !arrived) {
      giveUp(intent, "not begun before the stop");
      return;
    }
    if (there && !SameBytes.in(disk, from, to)) {
      giveUp(intent, "both names stand with different bytes; both are left");
      return;
    }
    if (there) {
      publisher.purge(from);
    }
    recovery.record(
        toBin
            ? new JournalEntry.Dropped(
                clock.instant(), intent.op(), intent.from(), intent.to(), "completed after a stop")
            : new JournalEntry.Returned(clock.instant(), intent.op(), intent.from(), intent.to()));
  }

  private void settlePurge(Intent intent) throws IOException {
    if (disk.facts(recovery.absolute(intent.from())).isPresent()) {
      giveUp(intent, "not begun before the stop");
    } else {
      recovery.record(new JournalEntry.Purged(clock.instant(), intent.op(), intent.from()));
    }
  }

  /** What got another name and was not compared yet gets its own back. */
  private void settleClear(Intent intent) throws IOException {
    Path file = Path.of(intent.from());
    Path held = Path.of(intent.aside());
    if (disk.facts(held).isPresent()) {
      if (disk.facts(file).isEmpty()) {
        publisher.move(held, file);
      }
      giveUp(intent, "stopped before it was compared; nothing was taken away");
    } else if (disk.facts(file).isPresent()) {
      giveUp(intent, "not begun before the stop");
    } else {
      recovery.record(
          new JournalEntry.Cleared(clock.instant(), intent.op(), intent.from(), intent.to()));
    }
  }

  private void giveUp(Intent intent, String why) throws IOException {
    recovery.record(new JournalEntry.Abandoned(clock.instant(), intent.op(), why));
  }

  private void clearStages(Path folder, int depth) throws IOException {
    publisher.clearStages(folder);
    for (Path path : depth > 30 ? List.<Path>of() : disk.list(folder)) {
      Optional<dev.kavrin.core.disk.FileFacts> facts = disk.facts(path);
      if (facts.filter(dev.kavrin.core.disk.FileFacts::isFolder).isPresent()) {
        clearStages(path, depth + 1);
      }
    }
  }
}
