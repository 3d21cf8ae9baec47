package dev.kavrin.server.platform;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.journal.Journal;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tools.jackson.core.JacksonException;

/**
 * A setting of the installation in a file that is only ever added to; its last whole line holds.
 * Needs no database. Safe for several threads.
 */
public final class LastLine<T> {
  private static final Logger LOG = LoggerFactory.getLogger(LastLine.class);

  private final Disk disk;
  private final Path file;
  private volatile T present;

  /**
   * @param otherwise what holds before anything was set
   */
  public LastLine(Disk disk, Path file, Class<T> type, T otherwise) {
    this.disk = disk;
    this.file = file;
    this.present = read(type, otherwise);
  }

  private T read(Class<T> type, T otherwise) {
    try {
      List<String> lines = Files.exists(file) ? Files.readAllLines(file) : List.of();
      for (int i = lines.size() - 1; i >= 0; i--) {
        try {
          return Journal.MAPPER.readValue(lines.get(i), type);
        } catch (JacksonException torn) {
          LOG.warn("{}: a line that cannot be read was passed over", file);
        }
      }
    } catch (IOException unreadable) {
      LOG.warn("{} cannot be read: {}", file, unreadable.getMessage());
    }
    return otherwise;
  }

  public T present() {
    return present;
  }

  public synchronized void set(T changed) throws IOException {
    byte[] line =
        (Journal.MAPPER.writeValueAsString(changed) + "\n").getBytes(StandardCharsets.UTF_8);
    try (Sink sink = disk.append(file)) {
      sink.write(line, 0, line.length);
      sink.flush();
    }
    present = changed;
  }
}
