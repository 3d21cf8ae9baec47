package dev.kavrin.core.profile;

import dev.kavrin.core.health.Verdict;

/**
 * What is seen of a program and its document at one moment.
 *
 * @param runs a process of the program is alive
 * @param ran it was alive at an earlier look, or a sign says so
 * @param signLeft its session sign stands
 * @param rescueWritten a rescue file appeared since it was last seen alive
 * @param live health of the live file
 * @param newerAutosave an autosave is newer than the live file
 */
public record EndSigns(
    boolean runs,
    boolean ran,
    boolean signLeft,
    boolean rescueWritten,
    Verdict live,
    boolean newerAutosave) {

  /** What the signs come to. */
  public enum Judgement {
    NOTHING,
    CRASH,
    CLOSED_WITH_UNSAVED_WORK
  }

  /** Program gone and one more sign is a crash; a newer autosave alone is not. */
  public Judgement judge() {
    if (runs || !ran) {
      return Judgement.NOTHING;
    }
    if (signLeft || rescueWritten || live == Verdict.DAMAGED) {
      return Judgement.CRASH;
    }
    return newerAutosave ? Judgement.CLOSED_WITH_UNSAVED_WORK : Judgement.NOTHING;
  }
}
