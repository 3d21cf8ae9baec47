package dev.kavrin.core.keep;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * What keep rules need to know of a step of a run: which contents belong together.
 *
 * @param setup id of the set-up's content, or null
 * @param restarts ids of the restart files' contents; several where a step is split
 * @param results ids of the results' contents
 * @param whole true if all it needs to go on stands in this folder, settled and intact
 * @param diverged true if what it holds is no use to go on from
 * @param marks reasons a person gave it to stay
 */
public record KeepSet(
    long run,
    long step,
    String setup,
    List<String> restarts,
    List<String> results,
    boolean whole,
    boolean diverged,
    Set<String> marks) {

  public KeepSet {
    restarts = List.copyOf(restarts);
    results = List.copyOf(results);
  }

  /** True if a content is one of its step's own, which no other step has. */
  public boolean isOfStep(String id) {
    return restarts.contains(id) || results.contains(id);
  }

  /** Ids of all its contents. */
  Set<String> contents() {
    Set<String> contents = new LinkedHashSet<>();
    if (setup != null) {
      contents.add(setup);
    }
    contents.addAll(restarts);
    contents.addAll(results);
    return contents;
  }
}
