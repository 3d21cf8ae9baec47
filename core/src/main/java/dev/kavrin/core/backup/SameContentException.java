package dev.kavrin.core.backup;

import dev.kavrin.core.journal.BackupRecord;
import java.io.IOException;

/** Gives up a stage because a backup has its bytes already. */
final class SameContentException extends IOException {
  private final transient BackupRecord backup;

  SameContentException(BackupRecord backup) {
    super("a backup has the same content");
    this.backup = backup;
  }

  BackupRecord backup() {
    return backup;
  }
}
