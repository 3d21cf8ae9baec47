package dev.kavrin.core.watch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.kavrin.core.backup.BackupMaker;
import dev.kavrin.core.backup.BackupOrder;
import dev.kavrin.core.backup.SourceException;
import dev.kavrin.core.content.Inventory;
import dev.kavrin.core.health.HealthReport;
import dev.kavrin.core.health.Verdict;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.MappedByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * A writer rewrites the file three hundred times (a thousand in full), a third in each way, while
 * captures run. Each version is one number repeated, so that a copy with two numbers in it is torn.
 */
class TornCopyTest extends EngineFixture {
  private static final boolean FULL = Boolean.getBoolean("kavrin.full");
  private static final int SIZE = FULL ? 64_000_000 : 8_000_000;
  private static final int REST = FULL ? 2500 : 220;
  private static final int VERSIONS = FULL ? 334 : 100;

  private volatile int settled;
  private volatile int refused;

  /** How a program may write its file; mapped once, no time of last write tells of it. */
  enum Writing {
    NEW_FILE_THEN_RENAME,
    IN_PLACE,
    THROUGH_MAPPED_MEMORY;

    void write(Path file, MappedByteBuffer mapped, int version) throws IOException {
      switch (this) {
        case NEW_FILE_THEN_RENAME -> {
          Path fresh = file.resolveSibling("fresh");
          Files.write(fresh, version(version));
          Files.move(fresh, file, StandardCopyOption.ATOMIC_MOVE);
        }
        case IN_PLACE -> {
          try (FileChannel out = FileChannel.open(file, StandardOpenOption.WRITE)) {
            ByteBuffer bytes = ByteBuffer.wrap(version(version));
            while (bytes.hasRemaining()) {
              out.write(bytes);
            }
          }
        }
        case THROUGH_MAPPED_MEMORY -> mapped.put(0, version(version));
      }
    }
  }

  private static byte[] version(int n) {
    ByteBuffer bytes = ByteBuffer.allocate(SIZE);
    while (bytes.remaining() >= 4) {
      bytes.putInt(n);
    }
    return bytes.array();
  }

  private static boolean isOneVersion(Path copy) throws IOException {
    ByteBuffer bytes = ByteBuffer.wrap(Files.readAllBytes(copy));
    int first = bytes.getInt(0);
    while (bytes.remaining() >= 4) {
      if (bytes.getInt() != first) {
        return false;
      }
    }
    return bytes.capacity() == SIZE;
  }

  @ParameterizedTest
  @EnumSource(Writing.class)
  void everyCopyCalledIntactIsOneCompleteVersion(Writing writing) throws Exception {
    live = live.resolveSibling("heat.dat");
    Files.write(live, version(0));
    BackupMaker capturer =
        new BackupMaker(
            disk,
            publisher,
            (file, name) -> new HealthReport(Verdict.INTACT, List.of(), Inventory.OPAQUE),
            recoveries,
            this);
    CompletableFuture<Void> writer = CompletableFuture.runAsync(() -> rewrite(writing));
    while (!writer.isDone()) {
      try {
        BackupMaker.Result made = capturer.capture(order());
        if (made.made() && made.capture().protects()) {
          settled++;
          assertThat(isOneVersion(made.file()))
              .as("%s, copy %s", writing, made.capture().path())
              .isTrue();
          publisher.purge(made.file());
        }
      } catch (SourceException.StillWritten torn) {
        refused++;
      }
    }
    writer.get();
    System.out.printf(
        "%s: %d versions, %d copies settled, %d refused%n", writing, VERSIONS, settled, refused);
    assertThat(settled).as("copies that settled").isPositive();
    assertThat(refused).as("copies thrown away").isPositive();
  }

  private void rewrite(Writing writing) {
    Random random = new Random(writing.ordinal());
    try (FileChannel file =
        FileChannel.open(live, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
      MappedByteBuffer mapped =
          writing == Writing.THROUGH_MAPPED_MEMORY
              ? file.map(FileChannel.MapMode.READ_WRITE, 0, SIZE)
              : null;
      for (int version = 1; version <= VERSIONS || !bothSeen(version); version++) {
        writing.write(live, mapped, version);
        boolean rests = random.nextInt(15) == 0;
        LockSupport.parkNanos(TimeUnit.MILLISECONDS.toNanos(rests ? REST : random.nextInt(8)));
      }
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
  }

  /**
   * On a busy machine few copies fit into the rests; it goes on until one of each kind was made.
   */
  private boolean bothSeen(int version) {
    return settled > 0 && refused > 0 || version > 40 * VERSIONS;
  }

  private BackupOrder order() {
    return BackupOrder.ofLive(project, DOCUMENT, live, "due", BackupOrder.How.CAREFULLY);
  }
}
