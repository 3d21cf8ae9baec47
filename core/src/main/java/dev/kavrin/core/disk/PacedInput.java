package dev.kavrin.core.disk;

import dev.kavrin.core.units.Clockwork;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Duration;
import java.util.concurrent.locks.LockSupport;

/** A stream that is read no faster than a rate, shared with others of the same pace. */
public final class PacedInput extends FilterInputStream {
  private final Pace pace;

  /** A rate that several streams share. */
  public static final class Pace {
    private final Throttle throttle;
    private final Clockwork clock;

    /**
     * @param bytesPerSecond above zero
     */
    public Pace(long bytesPerSecond, Clockwork clock) {
      this.throttle = new Throttle(bytesPerSecond);
      this.clock = clock;
    }

    public long bytesPerSecond() {
      return throttle.bytesPerSecond();
    }

    private void passed(long bytes) {
      Duration wait = throttle.after(bytes, clock.running());
      if (!wait.isZero()) {
        LockSupport.parkNanos(wait.toNanos());
      }
    }
  }

  public PacedInput(InputStream in, Pace pace) {
    super(in);
    this.pace = pace;
  }

  @Override
  public int read() throws IOException {
    int one = super.read();
    if (one >= 0) {
      pace.passed(1);
    }
    return one;
  }

  @Override
  public int read(byte[] bytes, int offset, int count) throws IOException {
    int read = super.read(bytes, offset, count);
    if (read > 0) {
      pace.passed(read);
    }
    return read;
  }
}
