package dev.kavrin.core.journal;

import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.Sink;
import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.stream.Collectors;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * The lasting record of one recovery folder: lines of JSON, each flushed before anything else
 * happens. A line torn by a power loss is passed over. Safe for several threads of one process.
 */
public final class Journal {
  /**
   * Reads what older and newer versions wrote: what is unknown is left out, what lacks is unset.
   */
  public static final JsonMapper MAPPER =
      JsonMapper.builder()
          .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
          .build();

  private final Disk disk;
  private final Path file;
  private final Queue<Waiting> waiting = new ConcurrentLinkedQueue<>();

  public Journal(Disk disk, Path file) {
    this.disk = disk;
    this.file = file;
  }

  public Path file() {
    return file;
  }

  /** Lines of one caller, who waits until they are on the device. */
  private static final class Waiting {
    private final String lines;
    private boolean written;
    private IOException failure;

    Waiting(String lines) {
      this.lines = lines;
    }
  }

  /**
   * Returns once the entries are on the device, in that order and with none between them. What
   * several callers bring while the device is busy is flushed in one go.
   */
  public void append(List<? extends JournalEntry> entries) throws IOException {
    Waiting own = new Waiting(entries.stream().map(Journal::line).collect(Collectors.joining()));
    waiting.add(own);
    synchronized (this) {
      if (!own.written) {
        writeAllThatWait();
      }
    }
    if (own.failure != null) {
      throw own.failure;
    }
  }

  /** One that fails fails all whose lines were with it: nobody knows which of them arrived. */
  private void writeAllThatWait() {
    List<Waiting> all = new ArrayList<>();
    for (Waiting next = waiting.poll(); next != null; next = waiting.poll()) {
      all.add(next);
    }
    IOException failure = new IOException(file + " was not written");
    try {
      write(all.stream().map(w -> w.lines).collect(Collectors.joining()));
      failure = null;
    } catch (IOException failed) {
      failure = failed;
    } finally {
      for (Waiting each : all) {
        each.failure = failure;
        each.written = true;
      }
    }
  }

  private void write(String lines) throws IOException {
    boolean fresh = disk.facts(file).isEmpty();
    boolean torn = !fresh && !endsWithNewline();
    byte[] bytes = ((torn ? "\n" : "") + lines).getBytes(StandardCharsets.UTF_8);
    try (Sink sink = disk.append(file)) {
      sink.write(bytes, 0, bytes.length);
      sink.flush();
    }
    if (fresh) {
      disk.flushFolder(file.getParent());
    }
  }

  private boolean endsWithNewline() throws IOException {
    try (SeekableByteChannel in = disk.read(file)) {
      if (in.size() == 0) {
        return true;
      }
      ByteBuffer last = ByteBuffer.allocate(1);
      in.position(in.size() - 1);
      in.read(last);
      return last.get(0) == '\n';
    }
  }

  /**
   * @param entries in the order they were written
   * @param end byte behind the last whole line; pass it to the next read
   * @param passedOver lines that could not be read, or that lead out of the folder
   */
  public record Page(List<JournalEntry> entries, long end, int passedOver) {}

  public Page readAll() throws IOException {
    return readFrom(0);
  }

  /** Reads whole lines from a byte offset; an absent journal is an empty one. */
  public Page readFrom(long offset) throws IOException {
    if (disk.facts(file).isEmpty()) {
      return new Page(List.of(), 0, 0);
    }
    try (SeekableByteChannel channel = disk.read(file)) {
      channel.position(offset);
      Page read = read(Channels.newInputStream(channel));
      return new Page(read.entries(), offset + read.end(), read.passedOver());
    }
  }

  /** Reads whole lines, wherever they come from; the caller closes. */
  public static Page read(InputStream lines) throws IOException {
    List<JournalEntry> entries = new ArrayList<>();
    int passedOver = 0;
    long end = 0;
    InputStream in = new BufferedInputStream(lines, 1 << 16);
    ByteArrayOutputStream line = new ByteArrayOutputStream();
    for (int b = in.read(); b >= 0; b = in.read()) {
      if (b != '\n') {
        line.write(b);
        continue;
      }
      end += line.size() + 1;
      passedOver += parse(line.toByteArray(), entries) ? 0 : 1;
      line.reset();
    }
    return new Page(entries, end, passedOver);
  }

  /** An entry as a line. */
  public static String line(JournalEntry entry) {
    return MAPPER.writerFor(JournalEntry.class).writeValueAsString(entry) + "\n";
  }

  private static boolean parse(byte[] line, List<JournalEntry> entries) {
    if (line.length == 0) {
      return true;
    }
    try {
      JournalEntry read = MAPPER.readValue(line, JournalEntry.class);
      JournalEntry entry = read instanceof FirstRound.Line old ? old.now() : read;
      if (entry.at() == null || !SafePaths.in(entry)) {
        return false;
      }
      entries.add(entry);
      return true;
    } catch (JacksonException | IllegalArgumentException | NullPointerException torn) {
      return false;
    }
  }
}
