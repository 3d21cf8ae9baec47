package dev.kavrin.core.disk;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongConsumer;

/** Another disk that tells how much was read of it. */
public final class CountedDisk extends ForwardingDisk {
  private final LongConsumer told;
  private final AtomicLong bytes = new AtomicLong();

  /**
   * @param told given all bytes read so far, with each reading; from any thread
   */
  public CountedDisk(Disk disk, LongConsumer told) {
    super(disk);
    this.told = told;
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    return new ForwardingChannel(super.read(file)) {
      @Override
      public int read(ByteBuffer target) throws IOException {
        int count = super.read(target);
        told.accept(bytes.addAndGet(Math.max(0, count)));
        return count;
      }
    };
  }
}
