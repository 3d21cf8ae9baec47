package dev.kavrin.core.disk;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * What a folder's file system can do, as measured there; never assumed.
 *
 * @param hardLinks a file can have a second name
 * @param exchange two names can be swapped in one step
 * @param renameIfFree a rename refuses to overwrite
 * @param refusesWhileOpen a file that is open cannot be moved or taken away
 * @param clones a copy can share its room with the original
 * @param permissions permission bits are kept
 * @param timeStep smallest difference of two times of last write
 * @param foldsCase names that differ in case alone are one
 * @param longestName bytes of UTF-8 in one name
 * @param folderFlush a folder's names can be flushed
 * @param stableKeys a file keeps its key when it is renamed
 */
public record Abilities(
    boolean hardLinks,
    boolean exchange,
    boolean renameIfFree,
    boolean refusesWhileOpen,
    boolean clones,
    boolean permissions,
    Duration timeStep,
    boolean foldsCase,
    int longestName,
    boolean folderFlush,
    boolean stableKeys) {
  private static final int USUAL_NAME = 255;

  /**
   * What is taken for granted where nothing can be measured, as on a drive that is full: the way
   * that needs no room is tried first, and what is refused leaves everything as it was.
   */
  public static final Abilities ASSUMED =
      new Abilities(
          true, true, true, false, false, true, Duration.ofNanos(1), false, USUAL_NAME, true, true);

  /** True if a restore can swap the present file out instead of copying it aside first. */
  public boolean replacesInOneStep() {
    return exchange;
  }

  /** What is different here from a folder that can do everything, in words; empty if nothing. */
  public List<String> told() {
    List<String> told = new ArrayList<>();
    if (!exchange) {
      told.add(
          "Two names cannot be swapped in one step here: before a restore the present file is"
              + " copied aside, which takes its room and its time once more; undo does the same.");
    }
    if (!hardLinks) {
      told.add(
          renameIfFree
              ? "Files have one name only here: what a program leaves behind is copied at once."
              : "Files have one name only, and a rename overwrites: an empty file can be seen for a"
                  + " moment before a new backup stands.");
    }
    if (refusesWhileOpen) {
      told.add("A file that a program has open cannot be replaced here; close it there first.");
    }
    if (!permissions) {
      told.add("Owner, group and permissions are not kept here.");
    }
    if (timeStep.compareTo(Duration.ofSeconds(1)) >= 0) {
      told.add(
          "Times are kept to "
              + timeStep.toSeconds()
              + " s here: a backup waits that long after a save.");
    }
    if (foldsCase) {
      told.add("Names that differ in case alone are one here.");
    }
    if (longestName < USUAL_NAME) {
      told.add("Names have at most " + longestName + " bytes here; longer ones are cut.");
    }
    if (!folderFlush) {
      told.add("Names cannot be flushed here: after a power cut the newest backup may be missing.");
    }
    return told;
  }
}
