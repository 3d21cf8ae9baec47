package dev.kavrin.core.content;

import dev.kavrin.core.disk.Disk;
import java.io.IOException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * One format of files and what Kavrin can do with it. Everything about a format stands in its own
 * package; nothing else asks which format a file has. Stateless; any thread may call.
 */
public interface Format {
  ContentReader reader();

  /**
   * The ending under which any program opens files that begin like this format's; empty where their
   * first bytes leave that open.
   */
  default Optional<String> ending() {
    return Optional.empty();
  }

  /** Brings parts of other files into files of this format; empty if nobody can. */
  default Optional<PartWriter> parts() {
    return Optional.empty();
  }

  /** Puts other names where files of this format name files; empty if nobody can. */
  default Optional<LinkWriter> links() {
    return Optional.empty();
  }

  /**
   * Makes files of this format lighter; empty if nothing of it can be left out.
   *
   * @param ext ending of the file, lower case, without the dot
   * @param pictures true to leave embedded pictures out
   * @param entries globs of entries to leave out, for formats that have such
   */
  default Optional<Reducer> reducer(String ext, boolean pictures, List<String> entries) {
    return Optional.empty();
  }

  /**
   * What heavy things are in a file; empty for formats into which Kavrin does not look.
   *
   * @param ext ending of the file, lower case, without the dot
   */
  default Optional<Attachments> attachments(SeekableByteChannel in, String ext) throws IOException {
    return Optional.empty();
  }

  /**
   * What a file carries along.
   *
   * @param attached pictures, sound and such
   * @param history earlier versions and undo steps
   */
  record Attachments(List<Reducer.Left> attached, List<Reducer.Left> history) {}

  /** What a copy of the file alone would lack, because it stands in another file beside it. */
  default Optional<Finding> lacking(Disk disk, Path file) throws IOException {
    return Optional.empty();
  }

  /** False for formats that carry nothing by which a whole file can be told from a cut one. */
  default boolean tellsWholeness() {
    return true;
  }

  /**
   * Where a whole file has no long run of zeros, though zeros are numbers by its rules; empty where
   * they are as good as any, or a reader refuses them.
   */
  default List<Dense> dense(SeekableByteChannel in) throws IOException {
    return List.of();
  }

  /**
   * Bytes that are hardly ever zero one after another.
   *
   * @param from first of them
   * @param to behind the last
   * @param usual longest run of zeros in a whole file
   */
  record Dense(long from, long to, int usual) {
    /** A shape at the origin with no normal has some seventy (own measure, no source). */
    public static final int SHAPES = 128;
  }

  /** True if files of any format may be packed into it. */
  default boolean packs() {
    return false;
  }

  /** True if its files are pictures. */
  default boolean isPicture() {
    return false;
  }
}
