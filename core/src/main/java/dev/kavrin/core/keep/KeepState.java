package dev.kavrin.core.keep;

import java.time.Instant;
import java.util.Set;

/**
 * What keep rules need to know of a state.
 *
 * @param id state id
 * @param birth rising number of its first copy
 * @param workTime when the work was done
 * @param bytes room its copies of Kavrin's take
 * @param protecting true if it has a full plain capture in this folder that is whole
 * @param marks reasons a person or an incident gave it to stay: "pinned", "noted" …
 * @param asWritten true if nobody saved it: a program wrote it aside of its own accord
 */
public record KeepState(
    String id,
    long birth,
    Instant workTime,
    long bytes,
    boolean protecting,
    Set<String> marks,
    boolean asWritten) {
  /** One that a person saved. */
  public KeepState(
      String id, long birth, Instant workTime, long bytes, boolean protecting, Set<String> marks) {
    this(id, birth, workTime, bytes, protecting, marks, false);
  }
}
