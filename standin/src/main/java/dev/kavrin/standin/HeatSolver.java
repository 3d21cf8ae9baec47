package dev.kavrin.standin;

import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.InstantSource;
import java.util.Locale;

/**
 * A solver as seen from outside: reads a JSON set-up, writes a restart file and a result for each
 * step, lets one history file grow over the whole run, shows a sign file while it works.
 */
public final class HeatSolver implements AutoCloseable {
  private static final String SETUP_ENDING = ".setup.json";

  private final Path setupFile;
  private final InstantSource clock;
  private HeatSetup setup;
  private HeatField field;
  private long step;

  /** Begins at step 0, or goes on from a step whose restart file stands. */
  public HeatSolver(Path setupFile, long from, InstantSource clock) throws IOException {
    this.setupFile = setupFile;
    this.clock = clock;
    this.setup = HeatSetup.read(setupFile);
    this.step = from;
    this.field = from == 0 ? new HeatField(setup) : new HeatField(setup, read(restartFile(from)));
    Files.createDirectories(restartFile(0).getParent());
    Files.createDirectories(resultFile(0).getParent());
    Files.writeString(sign(), "running\n");
  }

  public static void begin(Path setupFile, HeatSetup setup, InstantSource clock)
      throws IOException {
    Files.createDirectories(setupFile.getParent());
    Files.write(setupFile, setup.written());
    Files.setLastModifiedTime(setupFile, FileTime.from(clock.instant()));
  }

  private static double[][] read(Path restart) {
    try (HdfFile file = new HdfFile(restart)) {
      return (double[][]) file.getDatasetByPath("temperature").getData();
    }
  }

  private String stem() {
    return setupFile.getFileName().toString().replace(SETUP_ENDING, "");
  }

  public Path restartFile(long at) {
    return setupFile.resolveSibling("restart/" + name(at, "restart"));
  }

  public Path resultFile(long at) {
    return setupFile.resolveSibling("results/" + name(at, "result"));
  }

  private String name(long at, String what) {
    return String.format(Locale.ROOT, "%s-%04d.%s.h5", stem(), at, what);
  }

  Path sign() {
    return setupFile.resolveSibling("." + stem() + ".running");
  }

  Path history() {
    return setupFile.resolveSibling(stem() + ".history.jsonl");
  }

  public long step() {
    return step;
  }

  /** Another set-up from here on; it is written too. */
  public void change(HeatSetup changed) throws IOException {
    setup = changed;
    field = new HeatField(setup, field.kelvin());
    begin(setupFile, setup, clock);
  }

  public HeatSetup setup() {
    return setup;
  }

  /** Computes one step and writes its files, the result last. */
  public void advance() throws IOException {
    step++;
    field.advance(step);
    Path restart = restartFile(step);
    try (WritableHdfFile file = HdfFile.write(restart)) {
      file.putAttribute("step", step);
      file.putDataset("temperature", field.kelvin()).putAttribute("unit", "K");
    }
    Path result = resultFile(step);
    try (WritableHdfFile file = HdfFile.write(result)) {
      file.putAttribute("step", step);
      file.putAttribute("time", step * setup.seconds());
      file.putDataset("temperature", field.kelvin()).putAttribute("unit", "K");
      file.putDataset("radial flow", field.radialFlow()).putAttribute("unit", "W/m²");
    }
    String line =
        String.format(
            Locale.ROOT, "{\"step\":%d,\"hottest\":%s}%n", step, String.valueOf(field.hottest()));
    Files.writeString(
        history(),
        line,
        StandardCharsets.UTF_8,
        StandardOpenOption.CREATE,
        StandardOpenOption.APPEND);
    for (Path written : java.util.List.of(restart, result, history())) {
      Files.setLastModifiedTime(written, FileTime.from(clock.instant()));
    }
  }

  public boolean diverged() {
    return !Double.isFinite(field.hottest());
  }

  /** Ends in order; the sign goes. */
  @Override
  public void close() throws IOException {
    Files.deleteIfExists(sign());
  }
}
