package dev.kavrin.core.disk;

import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Function;

/**
 * Another disk, read and written no faster in each place than was set for it, and slower by whoever
 * can wait while others cannot.
 */
public final class PacedDisk extends ForwardingDisk {
  private final Function<Path, Optional<Rate>> rates;
  private final Runnable givingWay;
  private final Clockwork clock;
  private final Map<Path, Throttle> throttles = new ConcurrentHashMap<>();

  /**
   * @param place root of the place the rate is shared in
   */
  public record Rate(Path place, long bytesPerSecond) {}

  /**
   * @param rates what holds for a file now; empty for full speed
   * @param givingWay called after each stretch of bytes, by who read or wrote it
   */
  public PacedDisk(
      Disk disk, Function<Path, Optional<Rate>> rates, Runnable givingWay, Clockwork clock) {
    super(disk);
    this.givingWay = givingWay;
    this.rates = rates;
    this.clock = clock;
  }

  private void passed(Path file, long bytes) {
    givingWay.run();
    rates
        .apply(file)
        .ifPresent(
            rate -> {
              Duration wait = throttle(rate).after(bytes, clock.running());
              if (!wait.isZero()) {
                LockSupport.parkNanos(wait.toNanos());
              }
            });
  }

  private Throttle throttle(Rate rate) {
    return throttles.compute(
        rate.place(),
        (place, known) ->
            known != null && known.bytesPerSecond() == rate.bytesPerSecond()
                ? known
                : new Throttle(rate.bytesPerSecond()));
  }

  @Override
  public SeekableByteChannel read(Path file) throws IOException {
    return new PacedChannel(super.read(file), file);
  }

  @Override
  public Sink create(Path file) throws IOException {
    return paced(file, super.create(file));
  }

  private Sink paced(Path file, Sink sink) {
    return new Sink() {
      @Override
      public void write(byte[] bytes, int offset, int count) throws IOException {
        sink.write(bytes, offset, count);
        passed(file, count);
      }

      @Override
      public void flush() throws IOException {
        sink.flush();
      }

      @Override
      public void close() throws IOException {
        sink.close();
      }
    };
  }

  /** Reading that pays for what it took. */
  private final class PacedChannel extends ForwardingChannel {
    private final Path file;

    PacedChannel(SeekableByteChannel in, Path file) {
      super(in);
      this.file = file;
    }

    @Override
    public int read(ByteBuffer target) throws IOException {
      int count = super.read(target);
      passed(file, Math.max(0, count));
      return count;
    }
  }
}
