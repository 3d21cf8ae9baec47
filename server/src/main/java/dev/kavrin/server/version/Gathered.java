package dev.kavrin.server.version;

import dev.kavrin.core.health.Verdict;
import dev.kavrin.server.version.VersionsView.CopyView;
import dev.kavrin.server.version.VersionsView.StateView;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Copies of one kind that were made close together, drawn as one.
 *
 * @param index of the newest state among them, from the newest of all
 * @param state that one's id
 * @param size of the largest copy
 * @param verdict the worst of them
 */
public record Gathered(
    String kind,
    String folder,
    int index,
    String state,
    Instant at,
    int copies,
    long size,
    String verdict) {
  /** More than that many of a kind cannot be told apart on a screen. */
  private static final int OF_A_KIND = 240;

  /** Neighbours among all states from an index on; states are newest first. */
  static List<Gathered> of(List<StateView> states, int from) {
    Instant newest = states.get(from).workTo();
    Instant oldest = states.get(states.size() - 1).workTo();
    long apart = Math.max(1, Duration.between(oldest, newest).toMillis() / OF_A_KIND);
    List<Gathered> all = new ArrayList<>();
    Map<String, Integer> last = new HashMap<>();
    for (int i = from; i < states.size(); i++) {
      StateView state = states.get(i);
      for (CopyView copy : state.copies()) {
        if ("SETUP".equals(copy.role())) {
          continue;
        }
        Integer at = last.get(copy.kind());
        if (at != null && all.get(at).at().minusMillis(apart).isBefore(state.workTo())) {
          all.set(at, all.get(at).with(state, copy));
        } else {
          last.put(copy.kind(), all.size());
          all.add(of(i, state, copy));
        }
      }
    }
    return all;
  }

  private static Gathered of(int index, StateView state, CopyView copy) {
    String folder = copy.path().substring(0, copy.path().lastIndexOf('/') + 1);
    return new Gathered(
        copy.kind(),
        folder,
        index,
        state.id(),
        state.workTo(),
        1,
        copy.size(),
        verdict(state, copy));
  }

  private Gathered with(StateView older, CopyView copy) {
    String other = verdict(older, copy);
    boolean worse = Verdict.valueOf(other).compareTo(Verdict.valueOf(verdict)) > 0;
    return new Gathered(
        kind,
        folder,
        index,
        state,
        at,
        copies + 1,
        Math.max(size, copy.size()),
        worse ? other : verdict);
  }

  private static String verdict(StateView state, CopyView copy) {
    if (copy.fault() != null) {
      return Verdict.DAMAGED.name();
    }
    return copy.settled() ? state.verdict() : Verdict.DOUBTFUL.name();
  }
}
