package dev.kavrin.core.keep;

import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Says which states it keeps and why; everything nobody keeps may be dropped. Pure. */
@FunctionalInterface
public interface KeepRule {
  /** Keeps nothing; the protected states stay all the same. */
  KeepRule NOTHING = states -> new HashMap<>();

  /**
   * @param states oldest first by birth
   * @return reason by state id, for those kept; the caller's to change
   */
  Map<String, String> keeps(List<KeepState> states);
}
