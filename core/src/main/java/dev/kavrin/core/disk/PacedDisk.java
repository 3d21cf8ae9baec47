package dev.kavrin.core.disk;

import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Function;

/** Another disk, read and written no faster in each place than was set for it. */
public final class PacedDisk implements Disk {
  private final Disk disk;
  private final Function<Path, Optional<Rate>> rates;
  private final Clockwork clock;
  private final Map<Path, Throttle> throttles = new ConcurrentHashMap<>();

  /**
   * @param place root of the place the rate is shared in
   */
  public record Rate(Path place, long bytesPerSecond) {}

  /**
   * @param rates what holds for a file now; empty for full speed
   */
  public PacedDisk(Disk disk, Function<Path, Optional<Rate>> rates, Clockwork clock) {
    this.disk = disk;
    this.rates = rates;
    this.clock = clock;
  }

  private void passed(Path file, long bytes) {
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
    SeekableByteChannel in = disk.read(file);
    return rates.apply(file).isEmpty() ? in : new PacedChannel(in, file);
  }

  @Override
  public Sink create(Path file) throws IOException {
    return paced(file, disk.create(file));
  }

  @Override
  public Sink append(Path file) throws IOException {
    return disk.append(file);
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

  @Override
  public Optional<FileFacts> facts(Path path) throws IOException {
    return disk.facts(path);
  }

  @Override
  public List<Path> list(Path folder) throws IOException {
    return disk.list(folder);
  }

  @Override
  public void makeFolders(Path folder) throws IOException {
    disk.makeFolders(folder);
  }

  @Override
  public void link(Path existing, Path added) throws IOException {
    disk.link(existing, added);
  }

  @Override
  public void unlink(Path file) throws IOException {
    disk.unlink(file);
  }

  @Override
  public void rename(Path from, Path to) throws IOException {
    disk.rename(from, to);
  }

  @Override
  public boolean exchange(Path a, Path b) throws IOException {
    return disk.exchange(a, b);
  }

  @Override
  public void flushFolder(Path folder) throws IOException {
    disk.flushFolder(folder);
  }

  @Override
  public long room(Path folder) throws IOException {
    return disk.room(folder);
  }

  @Override
  public boolean mayBeWritten(Path file) {
    return disk.mayBeWritten(file);
  }

  @Override
  public void touch(Path file, long modifiedNanos) throws IOException {
    disk.touch(file, modifiedNanos);
  }

  @Override
  public void adoptPermissions(Path like, Path file) throws IOException {
    disk.adoptPermissions(like, file);
  }
}
