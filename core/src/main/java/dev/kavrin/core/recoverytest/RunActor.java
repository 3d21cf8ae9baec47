package dev.kavrin.core.recoverytest;

import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Map;

/** A solver that acts on a copy: it writes the files of its steps, and it dies. */
public interface RunActor {
  /** Begins with a set-up. */
  void open(Path setup) throws IOException;

  /**
   * Writes a step.
   *
   * @param files what they hold, by their path below the folder of the run
   */
  void step(Map<String, Path> files) throws IOException;

  /** Ends without order, as the way says; in the middle of writing that step if it is one. */
  void die(FailureMode way, Map<String, Path> files) throws IOException;

  /** Makes one for a set-up. */
  interface Maker {
    RunActor of(Path setup, InstantSource clock);
  }
}
