package dev.kavrin.core.backup;

import dev.kavrin.core.health.HealthReport;
import java.io.IOException;
import java.nio.file.Path;

/** The file to be copied is not in a state to be copied. Nothing was kept, nothing touched. */
public abstract sealed class SourceException extends IOException {
  private SourceException(String message) {
    super(message);
  }

  /** It is being written; try again when it has rested. */
  public static final class StillWritten extends SourceException {
    public StillWritten(Path file) {
      super(file + " was written while it was read. The copy was thrown away");
    }
  }

  /** It is damaged, and a timed copy of it would be no safety. */
  public static final class Damaged extends SourceException {
    private final transient HealthReport report;

    public Damaged(Path file, HealthReport report) {
      super(file + " is damaged: " + report.reason() + " No copy was made of it");
      this.report = report;
    }

    public HealthReport report() {
      return report;
    }
  }

  /** A link or a folder stands where a file is expected. */
  public static final class NotAFile extends SourceException {
    public NotAFile(Path file, String what) {
      super(file + " is " + what + ", not a plain file. Nothing was read");
    }
  }
}
