package dev.kavrin.core.retention;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.JournalEntry;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.Optional;

/**
 * Reads copies again long after they were written: a disk may forget. What is not what was written
 * any more is noted as damaged, so that it protects nothing and is never recommended.
 */
public final class Scrub {
  private final Disk disk;
  private final Publisher publisher;
  private final InstantSource clock;

  public Scrub(Disk disk, Publisher publisher, InstantSource clock) {
    this.disk = disk;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** Reads that copy again which was read longest ago, if that is longer than {@code every}. */
  public Optional<BackupRecord> rereadOldest(BackupFolder folder, Duration every)
      throws IOException {
    Optional<BackupRecord> copy = folder.history().longestUnread(clock.instant().minus(every));
    if (copy.isPresent()) {
      reread(folder, copy.get());
    }
    return copy;
  }

  /** True if it is what was written; either is written down. */
  public boolean reread(BackupFolder folder, BackupRecord copy) throws IOException {
    boolean whole = isWhole(folder, copy, "Read again: it is not what was written.");
    if (whole) {
      folder.record(new JournalEntry.Reread(clock.instant(), copy.path()));
    }
    return whole;
  }

  /**
   * Reads a backup again; one that is not what was written is noted as damaged, with the words; one
   * that cannot be read as not to be checked. Neither protects anything then.
   */
  public boolean isWhole(BackupFolder folder, BackupRecord copy, String words) throws IOException {
    Path file = folder.absolute(copy.path());
    try {
      boolean there = disk.facts(file).isPresent();
      if (there && publisher.identify(file).equals(copy.content())) {
        return true;
      }
      judge(folder, copy, Verdict.DAMAGED, there ? words : "It is gone from where it stood.");
    } catch (IOException unreadable) {
      folder.requireHere();
      judge(
          folder,
          copy,
          Verdict.UNCHECKABLE,
          "It could not be read again: " + unreadable.getMessage());
    }
    return false;
  }

  private void judge(BackupFolder folder, BackupRecord copy, Verdict verdict, String words)
      throws IOException {
    folder.record(new JournalEntry.Judged(clock.instant(), copy.path(), verdict, words));
  }
}
