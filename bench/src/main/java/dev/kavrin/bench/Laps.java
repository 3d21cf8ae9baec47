package dev.kavrin.bench;

import java.util.Arrays;
import java.util.Locale;

/** Times one thing that no general tool does, several times, against a fixed target. */
final class Laps {
  private static final int TURNS = 21;

  private Laps() {}

  static void run(String what, double targetMillis, Runnable once) {
    double[] millis = new double[TURNS];
    for (int turn = 0; turn < TURNS; turn++) {
      long start = System.nanoTime();
      once.run();
      millis[turn] = (System.nanoTime() - start) / 1e6;
    }
    double first = millis[0];
    Arrays.sort(millis);
    System.out.printf(
        Locale.ROOT,
        "%s%n  median %.1f ms, %.1f to %.1f ms in %d runs, the first %.1f ms"
            + " (target under %.0f: %s)%n",
        what,
        millis[TURNS / 2],
        millis[0],
        millis[TURNS - 1],
        TURNS,
        first,
        targetMillis,
        millis[TURNS / 2] < targetMillis ? "met" : "missed");
  }
}
