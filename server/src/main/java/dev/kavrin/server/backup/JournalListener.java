package dev.kavrin.server.backup;

import dev.kavrin.core.journal.JournalEntry;

/** Takes journal lines into a feature's records. Applying a line twice changes nothing. */
public interface JournalListener {
  /**
   * @param recoveryPlace key of the place whose journal this is
   */
  void apply(long recoveryPlace, JournalEntry entry);
}
