package dev.kavrin.core.journal;

import dev.kavrin.core.journal.JournalEntry.Receipt;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/**
 * Lines as the first release wrote them, read as what they are called now. Nothing writes them any
 * more. What was begun and not ended then counts as not done: the files stay as they stand.
 */
public final class FirstRound {
  private FirstRound() {}

  /** A line that has another form now. */
  interface Line extends JournalEntry {
    Operation operation();

    default JournalEntry now() {
      return new Done(at(), operation());
    }
  }

  record Begun(Instant at, UUID op) implements JournalEntry {}

  record GivenUp(Instant at, UUID op) implements JournalEntry {}

  record Captured(Instant at, UUID op, BackupRecord capture) implements Line {
    @Override
    public Operation operation() {
      return new Operation(op, new Operation.Backup(capture));
    }
  }

  record Dropped(Instant at, UUID op, String path, String bin, String why) implements Line {
    @Override
    public Operation operation() {
      return new Operation(op, new Operation.Drop(path, bin, why));
    }
  }

  record Returned(Instant at, UUID op, String bin, String path) implements Line {
    @Override
    public Operation operation() {
      return new Operation(op, new Operation.TakeBack(bin, path));
    }
  }

  record Purged(Instant at, UUID op, String bin) implements Line {
    @Override
    public Operation operation() {
      return new Operation(op, new Operation.Purge(bin));
    }
  }

  record Cleared(Instant at, UUID op, String path, String copy) implements Line {
    @Override
    public Operation operation() {
      return new Operation(op, new Operation.ClearLeftover(null, path, null, copy));
    }
  }

  record Restored(Instant at, UUID op, Receipt receipt) implements Line {
    @Override
    public Operation operation() {
      return new Operation(
          op, Operation.Restore.of(new Operation.Replacement(op, receipt, null, null)));
    }
  }

  /** Several restores that were one; their receipts have lines of their own. */
  public record GroupMeant(
      Instant at,
      UUID group,
      UUID project,
      String who,
      String what,
      List<UUID> ops,
      @Nullable UUID undoes)
      implements JournalEntry {}

  /** How it ended. */
  public record GroupEnded(Instant at, UUID group, boolean done, String told)
      implements JournalEntry {}
}
