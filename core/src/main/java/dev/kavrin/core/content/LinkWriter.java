package dev.kavrin.core.content;

import dev.kavrin.core.content.PartWriter.Opened;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/** Finds where a file names the files it leans on, to put other names there. */
public interface LinkWriter {
  /**
   * Bytes that go in the place of others.
   *
   * @param from first byte that goes
   * @param to first byte that stays
   */
  record Patch(long from, long to, byte[] with) {}

  /**
   * What to change so that other names stand in the file.
   *
   * @param names what to write by what stands there: {@link Link#uri} by {@link Link#uri}
   * @return by rising offset; none if no name stands there
   * @throws PartWriter.CannotTake its words say why not
   */
  List<Patch> patches(Opened file, Map<String, String> names) throws IOException;

  /** A path with forward slashes as files of this kind write it. */
  default String written(String path) {
    return path;
  }
}
