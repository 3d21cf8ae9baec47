package dev.kavrin.core.offsite;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.chunk.Sha256;
import dev.kavrin.core.disk.Disk;
import dev.kavrin.core.disk.PacedInput;
import dev.kavrin.core.journal.BackupRecord;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.function.UnaryOperator;

/** Sends one backup to a store and makes sure of what arrived. */
final class Shipment {
  private static final int BLOCK = 1 << 17;
  private static final int SMALL = 1 << 20;
  private static final int MOST_NAMES = 1000;

  private final Disk disk;
  private final Store store;
  private final String begin;
  private final UnaryOperator<InputStream> paced;

  /**
   * @param begin what all names of the project begin with
   * @param paced holds a stream to the rate that was set
   */
  Shipment(Disk disk, Store store, String begin, UnaryOperator<InputStream> paced) {
    this.disk = disk;
    this.store = store;
    this.begin = begin;
    this.paced = paced;
  }

  /** The file here is not what was written there once, so it was not sent. */
  static final class NotWholeException extends IOException {
    private static final long serialVersionUID = 1;

    NotWholeException(Path file) {
      super(file + " is not what was written. It was not sent");
    }
  }

  /** Where the bytes arrived, below the project's beginning. */
  record Arrived(String object, String sha256) {}

  /**
   * Returns once the bytes are known to be what was sent: by the checksum the store made of them,
   * or read back. An object of the name with other bytes is left alone.
   *
   * @param object name below the project's beginning, taken if it is free
   * @throws NotWholeException the file here has rotted
   */
  Arrived send(Path file, BackupRecord backup, String object) throws IOException {
    Body body = body(file, backup.content());
    for (int n = 1; n <= MOST_NAMES; n++) {
      String name = n == 1 ? object : numbered(object, n);
      Arrival arrival = store.put(begin + name, body);
      if (arrival == Arrival.PROVEN || holds(begin + name, body.sha256())) {
        return new Arrived(name, body.sha256());
      }
      if (arrival != Arrival.NAME_TAKEN) {
        throw new IOException(
            begin + name + " was sent and is not what came back. It counts for nothing");
      }
    }
    throw new IOException("All names for " + begin + object + " are taken");
  }

  /** True if the store gives back such bytes. */
  boolean holds(String name, String sha256) throws IOException {
    try (InputStream in = paced.apply(store.get(name))) {
      return Sha256.of(in).equals(sha256);
    } catch (NoSuchFileException gone) {
      return false;
    }
  }

  private static String numbered(String object, int n) {
    int dot = object.lastIndexOf('.');
    return dot <= object.lastIndexOf('/')
        ? object + "-" + n
        : object.substring(0, dot) + "-" + n + object.substring(dot);
  }

  private Body body(Path file, ContentId content) throws IOException {
    if (content.length() <= SMALL) {
      return small(file, content);
    }
    MessageDigest sha256 = Sha256.digest();
    ContentHash identity = new ContentHash();
    ByteBuffer block = ByteBuffer.allocate(BLOCK);
    try (SeekableByteChannel in = disk.read(file)) {
      while (in.read(block.clear()) >= 0) {
        sha256.update(block.array(), 0, block.position());
        identity.add(block.array(), 0, block.position());
      }
    }
    if (!identity.id().equals(content)) {
      throw new NotWholeException(file);
    }
    return new Body(content.length(), Sha256.of(sha256), offset -> paced.apply(open(file, offset)));
  }

  /** Read once, and sent from memory. */
  private Body small(Path file, ContentId content) throws IOException {
    ByteBuffer all = ByteBuffer.allocate((int) content.length() + 1);
    try (SeekableByteChannel in = disk.read(file)) {
      while (all.hasRemaining() && in.read(all) >= 0) {
        // Until there is no more, or more than there was.
      }
    }
    byte[] bytes = Arrays.copyOf(all.array(), all.position());
    if (!ContentHash.of(bytes).equals(content)) {
      throw new NotWholeException(file);
    }
    Body body = Body.of(bytes);
    return new Body(body.length(), body.sha256(), offset -> paced.apply(body.from(offset)));
  }

  private InputStream open(Path file, long offset) throws IOException {
    SeekableByteChannel in = disk.read(file);
    try {
      return Channels.newInputStream(in.position(offset));
    } catch (IOException | RuntimeException failed) {
      in.close();
      throw failed;
    }
  }

  /** Holds streams to a rate; null for full speed. */
  static UnaryOperator<InputStream> pace(PacedInput.Pace pace) {
    return pace == null ? in -> in : in -> new PacedInput(in, pace);
  }
}
