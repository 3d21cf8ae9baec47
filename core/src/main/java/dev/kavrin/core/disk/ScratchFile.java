package dev.kavrin.core.disk;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * A file of Kavrin's own in the machine's folder for such things, for libraries that take nothing
 * but paths. Gone when closed. No file of a person's is ever touched through it.
 */
public final class ScratchFile implements AutoCloseable {
  private final Path path;

  private ScratchFile(Path path) {
    this.path = path;
  }

  /**
   * @param ending with the dot
   */
  public static ScratchFile empty(String ending) throws IOException {
    return new ScratchFile(Files.createTempFile("kavrin-scratch-", ending));
  }

  /** A private copy of an open file, from its start; the file stays open. */
  public static ScratchFile copyOf(SeekableByteChannel in, String ending) throws IOException {
    ScratchFile copy = empty(ending);
    try (OutputStream out = Files.newOutputStream(copy.path)) {
      Channels.newInputStream(in.position(0)).transferTo(out);
      return copy;
    } catch (IOException failed) {
      copy.close();
      throw failed;
    }
  }

  public Path path() {
    return path;
  }

  public InputStream read() throws IOException {
    return Files.newInputStream(path);
  }

  @Override
  public void close() throws IOException {
    Files.deleteIfExists(path);
  }
}
