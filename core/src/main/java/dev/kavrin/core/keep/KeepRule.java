package dev.kavrin.core.keep;

import java.util.List;
import java.util.Map;

/** Says which states it keeps and why; everything nobody keeps may be dropped. Pure. */
@FunctionalInterface
public interface KeepRule {
  /** Keeps nothing; the protected states stay all the same. */
  KeepRule NOTHING = states -> Map.of();

  /**
   * @param states oldest first by birth
   * @return reason by state id, for those kept
   */
  Map<String, String> keeps(List<KeepState> states);
}
