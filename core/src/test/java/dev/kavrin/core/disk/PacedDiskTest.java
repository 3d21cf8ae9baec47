package dev.kavrin.core.disk;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.units.Clockwork;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A rate set for a place is kept by whatever is read and written there. */
class PacedDiskTest {
  private static final long RATE = 1_000_000;

  @TempDir Path folder;

  /** On a simulated clock: who waits as told never gets more than rate × time and one burst. */
  @Property(tries = 300)
  void whoeverWaitsAsToldKeepsTheRate(
      @ForAll @Size(min = 1, max = 60) List<@IntRange(min = 1, max = 400_000) Integer> blocks,
      @ForAll @IntRange(max = 500) int idleMillis) {
    Throttle throttle = new Throttle(RATE);
    Duration now = Duration.ofHours(1);
    Duration start = now;
    long passed = 0;
    int n = 0;
    for (int block : blocks) {
      passed += block;
      now = now.plus(throttle.after(block, now));
      double most = RATE * (now.minus(start).toNanos() / 1e9 + 0.2001);
      assertThat(passed).isLessThanOrEqualTo((long) Math.ceil(most) + n + 1);
      if (++n % 7 == 0) {
        now = now.plusMillis(idleMillis);
      }
    }
  }

  @Test
  void readingAndWritingPayAndOtherPlacesDoNot() throws IOException {
    Path slow = Files.createDirectories(folder.resolve("slow"));
    byte[] bytes = new byte[600_000];
    Files.write(slow.resolve("a"), bytes);
    Files.write(folder.resolve("b"), bytes);
    Disk disk =
        new PacedDisk(
            new RealDisk(),
            file ->
                file.startsWith(slow)
                    ? Optional.of(new PacedDisk.Rate(slow, RATE))
                    : Optional.empty(),
            () -> {},
            Clockwork.system());
    long start = System.nanoTime();
    Copying.identify(disk, slow.resolve("a"));
    try (Sink sink = disk.create(slow.resolve("c"))) {
      sink.write(bytes, 0, bytes.length);
    }
    assertThat(Duration.ofNanos(System.nanoTime() - start))
        .as("1.2 MB at 1 MB/s less one burst")
        .isGreaterThan(Duration.ofMillis(950));
    assertThat(disk.read(folder.resolve("b"))).isNotNull().isNotInstanceOf(Disk.class);
    assertThat(Files.mismatch(slow.resolve("a"), slow.resolve("c"))).isEqualTo(-1);
  }
}
