package dev.kavrin.server.health;

import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.server.backup.Engine;
import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.Timer;
import java.time.Duration;
import java.time.Instant;
import org.springframework.stereotype.Component;

/** Counts what is done, from the facts as they are written down. */
@Component
class BackupMeters {
  private final MeterRegistry meters;

  BackupMeters(MeterRegistry meters, Engine engine) {
    this.meters = meters;
    engine.onRecord(this::count);
    meters.gauge("kavrin.failing", engine, e -> e.failing().size());
    meters.gauge("kavrin.projects", engine, e -> e.projects().size());
  }

  private void count(JournalEntry entry) {
    if (entry instanceof JournalEntry.Done done) {
      meters.counter("kavrin.operations", "kind", kind(done.operation())).increment();
      if (done.operation().planned() instanceof Operation.Backup made) {
        backup(made.backup(), done.at());
      }
    } else if (entry instanceof JournalEntry.TakenBack) {
      meters.counter("kavrin.operations.taken.back").increment();
    } else if (entry instanceof JournalEntry.IncidentSet) {
      meters.counter("kavrin.incidents").increment();
    }
  }

  private void backup(BackupRecord backup, Instant made) {
    String kind = backup.kind().name();
    meters.counter("kavrin.backups", "kind", kind).increment();
    meters.counter("kavrin.backup.bytes", "kind", kind).increment(backup.content().length());
    boolean first = backup.sequence() <= 1;
    if (backup.kind() == CopyKind.CAPTURE && !first) {
      Duration lag = Duration.between(backup.workTo(), made);
      Timer.builder("kavrin.backup.lag")
          .description("From the last write of the work to the end of its backup")
          .register(meters)
          .record(lag.isNegative() ? Duration.ZERO : lag);
    }
  }

  private static String kind(Operation operation) {
    return operation.planned().getClass().getSimpleName();
  }
}
