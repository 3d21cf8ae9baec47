package dev.kavrin.standin;

import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;

/**
 * The solver as a process of its own: {@code java … SETUP FROM PORT|@SCRIPT}. Commands: {@code run
 * STEPS}, {@code stage SHARE}, {@code substeps COUNT}, {@code wait MS}, {@code crash}, {@code
 * close}.
 */
public final class SolverProcess {
  private final HeatSolver solver;

  private SolverProcess(HeatSolver solver) {
    this.solver = solver;
  }

  public static void main(String[] arguments) throws Exception {
    SolverProcess process =
        new SolverProcess(
            new HeatSolver(
                Path.of(arguments[0]), Long.parseLong(arguments[1]), InstantSource.system()));
    ControlPort.serve(arguments[2], process::obey);
  }

  private synchronized String obey(String verb, String rest)
      throws IOException, InterruptedException {
    switch (verb) {
      case "run" -> {
        for (long left = Long.parseLong(rest); left > 0; left--) {
          solver.advance();
        }
      }
      case "stage" ->
          solver.change(solver.setup().withStage(solver.step() + 1, Double.parseDouble(rest)));
      case "substeps" -> solver.change(solver.setup().withSubsteps(Integer.parseInt(rest)));
      case "wait" -> Thread.sleep(Long.parseLong(rest));
      case "crash" -> Runtime.getRuntime().halt(139);
      case "close" -> {
        solver.close();
        Runtime.getRuntime().halt(0);
      }
      default -> throw new IllegalArgumentException("unknown command " + verb);
    }
    return "step " + solver.step();
  }
}
