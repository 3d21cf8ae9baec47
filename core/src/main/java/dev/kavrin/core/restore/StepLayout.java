package dev.kavrin.core.restore;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import java.nio.file.Path;
import java.util.List;

/**
 * What laying out a step will do: its files under their own names in a folder of their own, so that
 * the run can go on from there.
 *
 * @param folder will be made; nothing stands there
 * @param free room on its drive now
 */
public record StepLayout(Path folder, List<Piece> pieces, long free) {
  /**
   * @param source copy to read
   * @param content what that copy must hold
   * @param relative where it goes below the folder
   */
  public record Piece(Path source, ContentId content, String relative) {}

  public StepLayout {
    pieces = List.copyOf(pieces);
  }

  public long bytes() {
    return pieces.stream().mapToLong(p -> p.content().length()).sum();
  }

  public boolean fits() {
    return free >= bytes();
  }

  /** Changes whenever the layout would be another one; sent back on apply. */
  public String digest() {
    return ContentHash.of(folder + "\0" + pieces).digest();
  }
}
