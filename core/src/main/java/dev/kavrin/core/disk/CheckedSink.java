package dev.kavrin.core.disk;

import dev.kavrin.core.chunk.ContentHash;
import dev.kavrin.core.chunk.ContentId;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.concurrent.CompletableFuture;

/**
 * Writes a new file and reads it back a stretch behind, on a thread of its own, while the stretch
 * is still in memory. What is read back gives the identity; a checksum on both sides tells that it
 * is what was handed over. For one writing thread.
 */
final class CheckedSink implements Sink {
  private static final long STRETCH = 4 << 20;
  private static final int BLOCK = 1 << 17;

  private final Disk disk;
  private final Path file;
  private final Sink sink;
  private final Checksum wrote = new Checksum();
  private final Checksum read = new Checksum();
  private final ContentHash identity = new ContentHash();
  private CompletableFuture<Void> reading = CompletableFuture.completedFuture(null);
  private long asked;

  /**
   * @param sink the file just made
   */
  CheckedSink(Disk disk, Path file, Sink sink) {
    this.disk = disk;
    this.file = file;
    this.sink = sink;
  }

  @Override
  public void write(byte[] bytes, int offset, int count) throws IOException {
    sink.write(bytes, offset, count);
    wrote.add(bytes, offset, count);
    if (wrote.length() - asked >= STRETCH && reading.isDone()) {
      asked = wrote.length();
      reading = reading.thenRunAsync(this::readOn, Background.THREADS);
    }
  }

  private void readOn() {
    ByteBuffer block = ByteBuffer.allocate(BLOCK);
    try (SeekableByteChannel in = disk.read(file)) {
      in.position(read.length());
      while (in.read(block.clear()) > 0) {
        read.add(block.array(), 0, block.position());
        identity.add(block.array(), 0, block.position());
      }
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
  }

  /**
   * @throws VerifyException what was read is not what was written
   */
  @Override
  public void flush() throws IOException {
    reading = asked == 0 ? reading : reading.thenRunAsync(this::readOn, Background.THREADS);
    sink.flush();
    Background.join(reading);
    try {
      readOn();
    } catch (UncheckedIOException failed) {
      throw failed.getCause();
    }
    if (!read.sameAs(wrote)) {
      throw new VerifyException(file, wrote, read);
    }
  }

  /** What was written; ask after the flush. */
  ContentId content() {
    return identity.id();
  }

  @Override
  public void close() throws IOException {
    sink.close();
  }
}
