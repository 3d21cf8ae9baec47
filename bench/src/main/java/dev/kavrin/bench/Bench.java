package dev.kavrin.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * {@code Bench WORK-FOLDER
 * [capture|scan|keep|plan|compare|history|restore|bundle|lanes|offsite|compact|people]…}: measures
 * against general tools on the same files.
 */
public final class Bench {
  private static final List<String> ALL =
      List.of(
          "capture", "scan", "keep", "plan", "compare", "history", "restore", "bundle", "lanes",
          "offsite", "compact", "people");

  private Bench() {}

  public static void main(String[] arguments) throws Exception {
    Path work = Path.of(arguments[0]);
    List<String> names = new ArrayList<>(List.of(arguments).subList(1, arguments.length));
    if (names.isEmpty()) {
      names.addAll(ALL);
    }
    for (String name : names) {
      Path own = Files.createDirectories(work.resolve(name));
      switch (name) {
        case "capture" -> CaptureBench.run(own);
        case "scan" -> ScanBench.run(own, System.getenv("KAVRIN_LINK"));
        case "keep" -> KeepBench.run();
        case "plan" -> PlanBench.run();
        case "compare" -> CompareBench.run(own);
        case "history" -> HistoryBench.run(own);
        case "restore" -> RestoreBench.run(own);
        case "bundle" -> BundleBench.run(own);
        case "lanes" -> LanesBench.run(own, System.getenv("KAVRIN_LINK"));
        case "people" -> PeopleBench.run(own, System.getenv("KAVRIN_LINK"));
        case "compact" -> CompactBench.run(own);
        case "offsite" ->
            OffsiteBench.run(
                own, System.getenv("KAVRIN_ANNEX"), System.getenv("KAVRIN_ANNEX_DATA"));
        default ->
            throw new IllegalArgumentException(
                "No measurement is called '" + name + "'. There are: " + ALL);
      }
    }
  }
}
