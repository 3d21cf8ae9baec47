package dev.kavrin.core.profile;

import jakarta.annotation.Nullable;
import java.nio.file.Path;
import java.util.List;

/**
 * What a program seems to do, for a person to accept or correct.
 *
 * @param document the file they work on, null if none can be told
 * @param documents all that could be it, likeliest first
 * @param rule names of documents
 * @param clues what was seen, one line for each thing proposed
 * @param writesItself true if it was seen to write copies of its own accord
 */
public record Proposal(
    ProgramProfile sheet,
    @Nullable Path document,
    List<Path> documents,
    List<String> rule,
    List<Clue> clues,
    boolean writesItself) {

  /** What a line is about. */
  public enum Topic {
    DOCUMENT,
    PROCESS,
    SIGN,
    AUTOSAVE,
    KEPT_BY_SAVE,
    RESCUE,
    NAMELESS,
    RHYTHM,
    SETTINGS
  }

  /**
   * @param value as it would stand in the sheet; empty if nothing is proposed
   * @param seen on what it rests, in words
   * @param sure false if it was inferred from names or a single event
   */
  public record Clue(Topic topic, String value, String seen, boolean sure) {}
}
