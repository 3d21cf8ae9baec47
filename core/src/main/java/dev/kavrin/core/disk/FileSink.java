package dev.kavrin.core.disk;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.util.concurrent.CompletableFuture;

/**
 * A file of this machine being written. Every 128 MiB a flush begins on another thread, so that the
 * device works while the processor does and little is left for the last one.
 */
final class FileSink implements Sink {
  private static final long STRETCH = 128 << 20;

  private final FileChannel channel;
  private CompletableFuture<Void> early = CompletableFuture.completedFuture(null);
  private long sinceEarly;

  FileSink(FileChannel channel) {
    this.channel = channel;
  }

  @Override
  public void write(byte[] bytes, int offset, int count) throws IOException {
    ByteBuffer buffer = ByteBuffer.wrap(bytes, offset, count);
    while (buffer.hasRemaining()) {
      channel.write(buffer);
    }
    sinceEarly += count;
    if (sinceEarly >= STRETCH && early.isDone()) {
      Background.join(early);
      sinceEarly = 0;
      early = CompletableFuture.runAsync(this::force, Background.THREADS);
    }
  }

  private void force() {
    try {
      channel.force(false);
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
  }

  /** The kernel tells a failed write-back once, and may have told it to an early flush. */
  @Override
  public void flush() throws IOException {
    Background.join(early);
    channel.force(true);
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
