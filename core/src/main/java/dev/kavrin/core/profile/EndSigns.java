package dev.kavrin.core.profile;

import dev.kavrin.core.health.Verdict;

/**
 * What is seen of a document once an instance of its program is gone, or none was ever seen.
 *
 * @param ran an instance that had it open, or may have had it, was seen alive here and is gone
 * @param othersRun another instance is alive, which nobody knows not to have it
 * @param signLeft its lock file stands, and names no other machine
 * @param signTells false if a person said that this program leaves lock files at a clean close
 * @param rescueWritten a rescue file appeared since it was last seen alive
 * @param live health of the live file
 * @param newerAutosave an autosave is newer than the live file
 * @param saysCrash its program wrote down itself that it crashed
 * @param cut the machine or Kavrin itself went down while it was open or worked on
 */
public record EndSigns(
    boolean ran,
    boolean othersRun,
    boolean signLeft,
    boolean signTells,
    boolean rescueWritten,
    Verdict live,
    boolean newerAutosave,
    boolean saysCrash,
    boolean cut) {
  /** Nothing at all. */
  public static final EndSigns NONE =
      new EndSigns(false, false, false, true, false, Verdict.NOT_CHECKED, false, false, false);

  /** What the signs come to. */
  public enum Judgement {
    NOTHING,
    CRASH,
    /** Open on another machine, or left behind by a crash nobody saw: a person is asked. */
    OPEN_ELSEWHERE_OR_LEFT,
    CLOSED_WITH_UNSAVED_WORK
  }

  /**
   * An instance gone and one more sign is a crash; a newer autosave alone is not, and neither is a
   * lock file that may be another instance's, or of which nobody saw the program here.
   */
  public Judgement judge() {
    if (!ran && !signLeft) {
      return Judgement.NOTHING;
    }
    boolean signProves = signLeft && ran && !othersRun && signTells;
    if (signProves || rescueWritten || saysCrash || live == Verdict.DAMAGED || cut) {
      return Judgement.CRASH;
    }
    if (signLeft) {
      return Judgement.OPEN_ELSEWHERE_OR_LEFT;
    }
    return newerAutosave && !othersRun ? Judgement.CLOSED_WITH_UNSAVED_WORK : Judgement.NOTHING;
  }
}
