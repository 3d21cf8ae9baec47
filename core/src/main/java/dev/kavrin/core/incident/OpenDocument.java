package dev.kavrin.core.incident;

import dev.kavrin.core.host.Instance;
import java.util.List;
import java.util.Set;

/**
 * Whether a document is open in its program, and what says so.
 *
 * @param evidence one sentence each, without a full stop
 * @param by the instances that have it open, or may; empty unless it is open here
 * @param sure true if it is known which instance has it
 */
public record OpenDocument(State state, List<String> evidence, Set<Instance.Id> by, boolean sure) {
  /** Before the first look. */
  public static final OpenDocument NOT_LOOKED =
      without(State.UNKNOWN, "nobody has looked since the start");

  /** Where it is open. */
  public enum State {
    HERE,
    ELSEWHERE,
    CLOSED,
    UNKNOWN
  }

  static OpenDocument without(State state, String evidence) {
    return new OpenDocument(state, List.of(evidence), Set.of(), false);
  }

  public boolean isHere() {
    return state == State.HERE;
  }

  /** True if its program may hold work of it that is in no file. */
  public boolean mayBeHere() {
    return state == State.HERE || state == State.UNKNOWN;
  }
}
