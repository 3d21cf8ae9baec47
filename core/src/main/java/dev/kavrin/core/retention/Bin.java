package dev.kavrin.core.retention;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.core.keep.BinLimit;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/** Where dropped copies wait before they are gone for good. Its bytes count as used room. */
public final class Bin {
  /** A changed plan drops what it no longer keeps at once, or when the next copy is made. */
  private static final Duration AFTER_A_CHANGE = Duration.ofHours(1);

  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;

  public Bin(Disk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * Deletes what has waited for its whole time, then the oldest until the bin is in its limit.
   *
   * @param held true if room is limited that the folder shares with others
   */
  int empty(BackupFolder folder, boolean held) throws IOException {
    Instant before = clock.instant().minus(BinLimit.TIME);
    int purged = purge(folder, binned -> binned.since().isBefore(before));
    Set<String> over = beyondLimit(folder, held);
    return over.isEmpty() ? purged : purged + purge(folder, b -> over.contains(b.bin()));
  }

  /** Of what the rules dropped by themselves; what a person had dropped waits its whole time. */
  private Set<String> beyondLimit(BackupFolder folder, boolean shared) throws IOException {
    History history = folder.history();
    List<History.Binned> byRule =
        history.bin().stream()
            .filter(b -> !isAPersonsWord(history, b))
            .sorted(Comparator.comparing(History.Binned::since))
            .toList();
    long over = byRule.stream().mapToLong(history::stored).sum();
    if (over == 0) {
      return Set.of();
    }
    long kept = history.allCaptures().stream().mapToLong(history::stored).sum();
    boolean held = shared || history.projects().stream().anyMatch(p -> p.plan().holdsRoom());
    over -= BinLimit.of(kept, disk.capacity(folder.root()), held);
    Set<String> beyond = new HashSet<>();
    for (int i = 0; i < byRule.size() && over > 0; i++) {
      beyond.add(byRule.get(i).bin());
      over -= history.stored(byRule.get(i));
    }
    return beyond;
  }

  /** Cleared out by hand, or dropped because the plan was changed just before. */
  private static boolean isAPersonsWord(History history, History.Binned binned) {
    return binned.byHand()
        || history
            .document(binned.capture().document())
            .flatMap(d -> history.projectSet(d.project()))
            .filter(
                set ->
                    !binned.since().isBefore(set)
                        && binned.since().isBefore(set.plus(AFTER_A_CHANGE)))
            .isPresent();
  }

  /**
   * Deletes the oldest until so many bytes are free, as far as they go; tells what is free then.
   */
  public long makeRoom(BackupFolder folder, Path where, long bytes) throws IOException {
    long free = disk.room(where);
    while (free < bytes && purgeOldest(folder)) {
      free = disk.room(where);
    }
    return free;
  }

  private boolean purgeOldest(BackupFolder folder) throws IOException {
    History.Binned oldest =
        folder.history().bin().stream()
            .min(Comparator.comparing(History.Binned::since))
            .orElse(null);
    return oldest != null && purge(folder, binned -> binned.bin().equals(oldest.bin())) > 0;
  }

  private int purge(BackupFolder folder, Predicate<History.Binned> which) throws IOException {
    folder.moving().lock();
    try {
      List<History.Binned> going =
          folder.dropsPaused().get()
              ? List.of()
              : folder.history().bin().stream().filter(which).toList();
      for (History.Binned binned : going) {
        purge(folder, binned);
      }
      return going.size();
    } finally {
      folder.moving().unlock();
    }
  }

  private void purge(BackupFolder folder, History.Binned binned) throws IOException {
    Operation operation = Operation.of(new Operation.Purge(binned.bin()));
    Path file = folder.owned(binned.bin());
    folder.begin(operation, clock.instant());
    try {
      if (disk.facts(file).isPresent()) {
        publisher.purge(file);
      }
      folder.done(operation, clock.instant());
    } catch (IOException | RuntimeException failed) {
      folder.leftOpen(operation);
      throw failed;
    }
  }
}
