package dev.kavrin.server.backup;

import dev.kavrin.core.journal.JournalEntry;

/** Takes journal lines into a feature's records. Applying a line twice changes nothing. */
public interface JournalListener {
  /** Called for each line before it is taken in, outside any transaction: here a disk is asked. */
  default void before(JournalEntry entry) {}

  /**
   * @param recoveryPlace key of the place whose journal this is
   */
  void apply(long recoveryPlace, JournalEntry entry);
}
