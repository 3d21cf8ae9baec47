package dev.kavrin.core.keep;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * How many steps of runs stay, as a person sets it. Restart files are the safety, results the
 * product, so each has a count of its own.
 *
 * @param restarts that many last steps, in the order (run, step), keep their restart files; and
 *     that many last ones that are whole
 * @param everyResult results of every so many-th step are copied, once, and stay; zero for none
 * @param setupEachTime true to copy the set-up with each step, false only when it changed
 */
public record RunCounts(int restarts, int everyResult, boolean setupEachTime) {
  public static final RunCounts DEFAULT = new RunCounts(5, 1, false);
  private static final int MOST = 100_000;
  private static final Comparator<KeepSet> ORDER =
      Comparator.comparingLong(KeepSet::run).thenComparingLong(KeepSet::step);

  public RunCounts {
    inRange("Restart files to keep", restarts);
    inRange("Every so many-th result", everyResult);
  }

  private static void inRange(String what, int value) {
    if (value < 0 || value > MOST) {
      throw new IllegalArgumentException(what + ": " + value + " is not within 0 to " + MOST);
    }
  }

  /** True if a step's result is worth a copy. */
  public boolean wantsResult(long step) {
    return everyResult > 0 && step % everyResult == 0;
  }

  /**
   * The rule these counts come to, over the contents of a document.
   *
   * @param sets all steps known, in any order
   * @param plain what is kept of set-ups apart from their steps
   */
  public KeepRule rule(List<KeepSet> sets, KeepRule plain) {
    List<KeepSet> ordered = sets.stream().sorted(ORDER).toList();
    return states -> {
      List<KeepState> setups = new ArrayList<>(states);
      setups.removeIf(s -> isOfStep(ordered, s.id()));
      Map<String, String> kept = plain.keeps(setups);
      steps(ordered)
          .forEach((id, why) -> kept.merge(id, why, (a, b) -> a.equals(b) ? a : a + ", " + b));
      return kept;
    };
  }

  private static boolean isOfStep(List<KeepSet> sets, String id) {
    return sets.stream().anyMatch(s -> s.isOfStep(id));
  }

  /** Reasons by content id. */
  private Map<String, String> steps(List<KeepSet> ordered) {
    Map<String, String> kept = new HashMap<>();
    List<KeepSet> restartable = ordered.stream().filter(s -> !s.restarts().isEmpty()).toList();
    List<KeepSet> whole = restartable.stream().filter(KeepSet::whole).toList();
    keepNewest(kept, restartable, "newest " + restarts + " restart files");
    keepNewest(kept, whole, "newest " + restarts + " restart files");
    for (KeepSet set : ordered) {
      if (!set.results().isEmpty() && wantsResult(set.step())) {
        keep(
            kept,
            set.results(),
            everyResult == 1 ? "each result" : "the result of every " + everyResult + " steps");
        keep(kept, set.setup(), "set-up of a kept step");
      }
      if (!set.marks().isEmpty()) {
        all(kept, set, String.join(", ", new java.util.TreeSet<>(set.marks())));
      }
    }
    beforeDiverged(ordered).forEach(set -> all(kept, set, "last before the run diverged"));
    return kept;
  }

  /** One that cannot be gone on from takes no place of one that can. */
  private void keepNewest(Map<String, String> kept, List<KeepSet> ordered, String why) {
    for (KeepSet set : last(ordered, restarts)) {
      keep(kept, set.restarts(), why);
      keep(kept, set.setup(), "set-up of a kept step");
    }
  }

  /** What no count and no room limit may take: all of the newest step that is whole. */
  static Map<String, String> protecting(List<KeepSet> sets, Map<String, String> kept) {
    sets.stream()
        .filter(KeepSet::whole)
        .max(ORDER)
        .ifPresent(newest -> all(kept, newest, KeepRules.PROTECTED));
    return kept;
  }

  private static List<KeepSet> last(List<KeepSet> sets, int count) {
    return sets.subList(Math.max(0, sets.size() - count), sets.size());
  }

  private static void all(Map<String, String> kept, KeepSet set, String why) {
    keep(kept, set.contents(), why);
  }

  private static void keep(Map<String, String> kept, Collection<String> ids, String why) {
    ids.forEach(id -> keep(kept, id, why));
  }

  private static void keep(Map<String, String> kept, String id, String why) {
    if (id != null) {
      kept.merge(id, why, (a, b) -> a.contains(b) ? a : a + ", " + b);
    }
  }

  /** In each run the last whole step before the first that diverged. */
  private static List<KeepSet> beforeDiverged(List<KeepSet> ordered) {
    Map<Long, KeepSet> last = new HashMap<>();
    Map<Long, KeepSet> found = new HashMap<>();
    for (KeepSet set : ordered) {
      if (set.diverged() && last.containsKey(set.run())) {
        found.putIfAbsent(set.run(), last.get(set.run()));
      } else if (set.whole()) {
        last.put(set.run(), set);
      }
    }
    return List.copyOf(found.values());
  }
}
