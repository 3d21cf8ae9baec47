package dev.kavrin.standin;

import dev.kavrin.core.recoverytest.FailureMode;
import dev.kavrin.core.recoverytest.RunActor;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Map;
import java.util.TreeMap;

/** Writes the files of steps where the rule of the run has them, and dies when it is told to. */
public final class ActingSolver implements RunActor {
  private final Path setup;
  private final ActingWrites writes;

  public ActingSolver(Path setup, InstantSource clock) {
    this.setup = setup;
    this.writes = new ActingWrites(clock);
  }

  @Override
  public void open(Path from) throws IOException {
    writes.part(setup, from, ActingWrites.WHOLE);
  }

  @Override
  public void step(Map<String, Path> files) throws IOException {
    write(files, ActingWrites.WHOLE);
  }

  @Override
  public void die(FailureMode way, Map<String, Path> files) throws IOException {
    switch (way) {
      case MID_SAVE -> write(files, 0.6);
      case DISK_FULL -> write(files, 0.2);
      case DAMAGED -> {
        for (String relative : files.keySet()) {
          writes.zeroSecondHalf(setup.resolveSibling(relative));
        }
      }
      case DRIVE_GONE -> ActingWrites.unplug(setup);
      case IDLE, MID_AUTOSAVE -> {}
    }
  }

  private void write(Map<String, Path> files, double share) throws IOException {
    for (Map.Entry<String, Path> file : new TreeMap<>(files).entrySet()) {
      writes.part(setup.resolveSibling(file.getKey()), file.getValue(), share);
    }
  }
}
