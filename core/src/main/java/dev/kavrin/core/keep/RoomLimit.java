package dev.kavrin.core.keep;

import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Keeps what another rule keeps, as far as the room goes; what must stay, stays even past the
 * limit. What goes next: {@link Thinning}.
 *
 * @param bytes room for all that is kept
 */
record RoomLimit(KeepRule rule, long bytes) implements KeepRule {
  @Override
  public Map<String, String> keeps(List<KeepState> states) {
    Map<String, String> kept = rule.keeps(states);
    List<KeepState> counted = counted(states, kept);
    long over = counted.stream().mapToLong(KeepState::bytes).sum() - bytes;
    kept.keySet().removeAll(new Thinning(List.of(counted)).until(over).get(0));
    return kept;
  }

  /** The newest whole ones take room whether the rule keeps them or not. */
  static List<KeepState> counted(List<KeepState> states, Map<String, String> kept) {
    Set<KeepState> whole = Thinning.newestWhole(states);
    return states.stream().filter(s -> kept.containsKey(s.id()) || whole.contains(s)).toList();
  }
}
