package dev.kavrin.core.content;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.SeekableByteChannel;
import java.util.List;

/**
 * Brings parts of other files of the same kind into a file, and leaves everything else in it as it
 * is. A part that stands there already under the same id is replaced.
 */
public interface PartWriter {
  /**
   * A file that is read.
   *
   * @param name proper name
   * @param beside what lies beside it
   */
  record Opened(SeekableByteChannel in, String name, SiblingFiles beside) {}

  /**
   * @param parts ids in the inventory of the file
   */
  record Wanted(Opened from, List<String> parts) {}

  /**
   * What became of a part.
   *
   * @param from its id where it came from
   * @param part its id in what was written
   * @param replaced true if it stands for one that was there
   * @param along what came with it, in words
   * @param told what could not come, or clashed, in words
   */
  record Brought(
      String from, String part, boolean replaced, List<String> along, List<String> told) {}

  /**
   * Writes the file with the parts in it.
   *
   * @throws CannotTake nothing useful was written; its words say why
   * @throws IOException a device failed
   */
  List<Brought> write(Opened base, List<Wanted> wanted, OutputStream out) throws IOException;

  /** A part cannot be taken alone. */
  final class CannotTake extends IOException {
    public CannotTake(String words) {
      super(words);
    }
  }
}
