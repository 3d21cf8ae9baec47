package dev.kavrin.core.keep;

import java.util.Map;
import java.util.Set;

/**
 * What keep rules need to know of a step of a run: which contents belong together.
 *
 * @param setup id of the set-up's content, or null
 * @param restart id of the restart file's content, or null
 * @param result id of the result's content, or null
 * @param whole true if all it needs to go on stands in this folder, settled and intact
 * @param diverged true if what it holds is no use to go on from
 * @param marks reasons a person gave it to stay
 */
public record KeepSet(
    long run,
    long step,
    String setup,
    String restart,
    String result,
    boolean whole,
    boolean diverged,
    Set<String> marks) {

  /** Ids of all its contents, by what they are for. */
  Map<String, String> contents() {
    Map<String, String> contents = new java.util.LinkedHashMap<>();
    put(contents, setup, "set-up");
    put(contents, restart, "restart");
    put(contents, result, "result");
    return contents;
  }

  private static void put(Map<String, String> contents, String id, String what) {
    if (id != null) {
      contents.putIfAbsent(id, what);
    }
  }
}
