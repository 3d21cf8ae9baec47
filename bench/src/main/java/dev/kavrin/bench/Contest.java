package dev.kavrin.bench;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;

/** Two ways of doing the same, run in turns, compared by their medians. */
final class Contest {
  /** One way; the answer is the seconds it took. */
  @FunctionalInterface
  interface Way {
    double run(int turn) throws Exception;
  }

  private Contest() {}

  /**
   * @param target the ratio of medians, ours by theirs, that should hold
   */
  static void run(String what, int turns, double target, Way ours, String tool, Way theirs)
      throws Exception {
    List<Double> mine = new ArrayList<>();
    List<Double> others = new ArrayList<>();
    for (int turn = 0; turn < turns; turn++) {
      others.add(theirs.run(turn));
      mine.add(ours.run(turn));
    }
    double ratio = median(mine) / median(others);
    System.out.printf(
        Locale.ROOT,
        "%s%n  kavrin  %s%n  %-7s %s%n  ratio   %.2f (target at most %.1f: %s)%n",
        what,
        spread(mine),
        tool,
        spread(others),
        ratio,
        target,
        ratio <= target ? "met" : "missed");
  }

  private static double median(List<Double> seconds) {
    List<Double> sorted = new ArrayList<>(seconds);
    Collections.sort(sorted);
    int middle = sorted.size() / 2;
    return sorted.size() % 2 == 1
        ? sorted.get(middle)
        : (sorted.get(middle - 1) + sorted.get(middle)) / 2;
  }

  private static String spread(List<Double> seconds) {
    return String.format(
        Locale.ROOT,
        "median %.3f s, %.3f to %.3f s in %d runs",
        median(seconds),
        Collections.min(seconds),
        Collections.max(seconds),
        seconds.size());
  }

  /** Runs a command to its end; the answer is the seconds it took. */
  static double command(String... command) throws Exception {
    long start = System.nanoTime();
    Process process =
        new ProcessBuilder(command)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    if (process.waitFor() != 0) {
      throw new IllegalStateException(String.join(" ", command) + " failed");
    }
    return (System.nanoTime() - start) / 1e9;
  }
}
