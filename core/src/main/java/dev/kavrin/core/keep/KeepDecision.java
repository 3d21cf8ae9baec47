package dev.kavrin.core.keep;

import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/**
 * What a rule comes to for a whole history.
 *
 * @param kept reason by state id
 * @param dropped ids, oldest first
 */
public record KeepDecision(Map<String, String> kept, List<String> dropped) {

  /** Decides for states in any order; protection always applies. */
  public static KeepDecision of(KeepRule rule, List<KeepState> states) {
    List<KeepState> ordered =
        states.stream()
            .sorted(Comparator.comparing(KeepState::birth).thenComparing(KeepState::id))
            .toList();
    Map<String, String> kept = KeepRules.withProtection(rule).keeps(ordered);
    return new KeepDecision(
        Collections.unmodifiableMap(kept),
        ordered.stream().map(KeepState::id).filter(id -> !kept.containsKey(id)).toList());
  }
}
