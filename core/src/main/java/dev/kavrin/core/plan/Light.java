package dev.kavrin.core.plan;

import com.fasterxml.jackson.annotation.JsonIgnore;
import dev.kavrin.core.content.Formats;
import dev.kavrin.core.content.Reducer;
import java.util.List;
import java.util.Optional;

/**
 * What timed copies leave out. A light copy is never the one that protects.
 *
 * @param pictures embedded pictures are left out
 * @param entries globs of archive entries that are left out
 * @param fullEvery every so many-th timed copy is full all the same, at least 2
 */
public record Light(boolean pictures, List<String> entries, int fullEvery) {
  public static final Light NEVER = new Light(false, List.of(), 6);
  private static final int MOST = 10_000;

  /** Ending of files that have entries. */
  private static final String PACKED = "zip";

  public Light {
    entries = entries == null ? List.of() : List.copyOf(entries);
    fullEvery = fullEvery == 0 ? 6 : fullEvery;
    if (fullEvery < 2 || fullEvery > MOST) {
      throw new IllegalArgumentException(
          "Every so many-th copy full: " + fullEvery + " is not within 2 to " + MOST);
    }
    try {
      List<String> globs = entries;
      Formats.ending(PACKED).flatMap(f -> f.reducer(PACKED, false, globs));
    } catch (RuntimeException unreadable) {
      throw new IllegalArgumentException(
          "Entries to leave out cannot be read: " + unreadable.getMessage(), unreadable);
    }
  }

  /** Who makes files of a kind lighter by this; empty if nobody does. */
  @JsonIgnore
  public Optional<Reducer> reducer(String ext) {
    return Formats.ending(ext).flatMap(f -> f.reducer(ext, pictures, entries));
  }
}
