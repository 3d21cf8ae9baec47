package dev.kavrin.core.keep;

import jakarta.annotation.Nullable;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What a person wants to be rid of, once. What is pinned, noted or protected stays in any case.
 *
 * @param olderThan copies of work older than that go; null for no matter
 * @param beyondNewest all but so many newest of each document go; null for no matter
 * @param damaged true for those that are damaged or doubtful
 * @param need bytes that should become free, of one document; those whose loss opens the smallest
 *     gap go first; 0 for no matter
 */
public record ClearOut(
    @Nullable Duration olderThan, @Nullable Integer beyondNewest, boolean damaged, long need) {
  private static final String STAYS = "not cleared out";

  public ClearOut {
    if (olderThan != null && olderThan.isNegative()
        || beyondNewest != null && beyondNewest < 0
        || need < 0) {
      throw new IllegalArgumentException("Ages, counts and bytes to clear out are not negative");
    }
  }

  /** True if it asks for nothing. */
  public boolean isIdle() {
    return olderThan == null && beyondNewest == null && !damaged && need == 0;
  }

  /** The same for one of several documents, with its share of the bytes. */
  public ClearOut needing(long bytes) {
    return new ClearOut(olderThan, beyondNewest, damaged, bytes);
  }

  /**
   * What stays.
   *
   * @param sets steps of runs; the newest whole one stays
   */
  public KeepRule rule(Instant now, List<KeepSet> sets) {
    KeepRule rest = this::rest;
    KeepRule aged = states -> aged(rest.keeps(states), states, now);
    KeepRule roomy =
        states ->
            need == 0
                ? aged.keeps(states)
                : new RoomLimit(aged, Math.max(0, bytes(states) - need)).keeps(states);
    return sets.isEmpty() ? roomy : states -> RunCounts.protecting(sets, roomy.keeps(states));
  }

  private static long bytes(List<KeepState> states) {
    return states.stream().mapToLong(KeepState::bytes).sum();
  }

  /** All but the damaged, if those are to go, and but those beyond the count. */
  private Map<String, String> rest(List<KeepState> states) {
    Map<String, String> kept = new HashMap<>();
    int first = beyondNewest == null ? 0 : Math.max(0, states.size() - beyondNewest);
    for (int i = 0; i < states.size(); i++) {
      KeepState s = states.get(i);
      if (!s.marks().isEmpty() || i >= first && (!damaged || s.protecting())) {
        kept.put(s.id(), STAYS);
      }
    }
    return kept;
  }

  private Map<String, String> aged(Map<String, String> kept, List<KeepState> states, Instant now) {
    if (olderThan != null) {
      Instant limit = now.minus(olderThan);
      states.stream()
          .filter(s -> s.workTime().isBefore(limit) && s.marks().isEmpty())
          .forEach(s -> kept.remove(s.id()));
    }
    return kept;
  }
}
