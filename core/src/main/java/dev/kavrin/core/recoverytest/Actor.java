package dev.kavrin.core.recoverytest;

import dev.kavrin.core.profile.ProgramProfile;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;

/** A program that acts on a copy as its sheet says: it writes, and it dies. */
public interface Actor {
  /** Opens the file; its session sign stands from then on. */
  void open() throws IOException;

  /** Saves a state over the file. */
  void save(Path state) throws IOException;

  /** Writes a copy of its own beside the file. */
  void autosave(Path state) throws IOException;

  /** Ends without order, as the way says, in the middle of writing a state if it is one. */
  void die(FailureMode way, Path state) throws IOException;

  /** Makes one for a live file. */
  interface Maker {
    Actor of(Path live, ProgramProfile sheet, InstantSource clock);
  }
}
