package dev.kavrin.core.disk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CountDownLatch;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A folder whose calls do not return costs only itself; nothing else tells the difference. */
class AnsweringDiskTest {
  private static final Duration PATIENCE = Duration.ofSeconds(1);

  @TempDir private Path share;
  @TempDir private Path local;
  private final CountDownLatch back = new CountDownLatch(1);
  private volatile boolean dead;
  private AnsweringDisk disk;

  @BeforeEach
  void overADiskThatMayDie() {
    disk =
        new AnsweringDisk(
            new DeadDisk(), p -> p.startsWith(share) ? share : p.getParent(), PATIENCE);
  }

  @AfterEach
  void letGo() {
    back.countDown();
  }

  /** Of the share no call returns while it is dead. */
  private final class DeadDisk extends GatedDisk {
    DeadDisk() {
      super(new RealDisk());
    }

    @Override
    protected void pass(Path path) {
      if (dead && path.startsWith(share)) {
        try {
          back.await();
        } catch (InterruptedException stopped) {
          Thread.currentThread().interrupt();
        }
      }
    }

    @Override
    public SeekableByteChannel read(Path file) throws IOException {
      return new ForwardingChannel(super.read(file)) {
        @Override
        public int read(ByteBuffer target) throws IOException {
          pass(file);
          return super.read(target);
        }
      };
    }

    @Override
    public Sink create(Path file) throws IOException {
      Sink sink = super.create(file);
      return new Sink() {
        @Override
        public void write(byte[] bytes, int offset, int count) throws IOException {
          pass(file);
          sink.write(bytes, offset, count);
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
  }

  @Test
  void aDeadShareIsToldInTimeThenAtOnceAndNothingElseWaits() throws IOException {
    Files.writeString(local.resolve("pier.glb"), "pier");
    dead = true;
    assertThatThrownBy(() -> disk.facts(share)).isInstanceOf(NotAnsweringException.class);
    assertThat(disk.answers(share.resolve("any"))).isFalse();
    for (int i = 0; i < 1000; i++) {
      assertThatThrownBy(() -> disk.list(share)).hasMessage(share + " is not answering");
    }
    assertThat(disk.facts(local.resolve("pier.glb"))).isPresent();
    assertThat(disk.answers(local.resolve("pier.glb"))).isTrue();
  }

  @Test
  void onceItsCallsReturnItIsAskedAgain() throws IOException {
    dead = true;
    assertThatThrownBy(() -> disk.facts(share)).isInstanceOf(NotAnsweringException.class);
    dead = false;
    back.countDown();
    Awaitility.await().until(() -> disk.answers(share));
    assertThat(disk.facts(share)).isPresent();
  }

  @Test
  void aShareThatDiesWhileItIsReadOrWrittenLetsGo() throws IOException {
    Path file = share.resolve("pier.glb");
    Files.write(file, new byte[3_000_000]);
    byte[] part = new byte[1_000_000];
    try (SeekableByteChannel in = disk.read(file);
        Sink out = disk.create(share.resolve("copy.glb"))) {
      in.read(ByteBuffer.wrap(part));
      out.write(part, 0, part.length);
      dead = true;
      assertThatThrownBy(() -> Channels.newInputStream(in).readAllBytes())
          .isInstanceOf(NotAnsweringException.class);
      assertThatThrownBy(
              () -> {
                out.write(part, 0, part.length);
                out.flush();
              })
          .isInstanceOf(NotAnsweringException.class);
    }
    assertThat(disk.answers(share)).isFalse();
  }

  /** Slow is not dead: while the folder answers at all, a long write or flush is waited for. */
  @Test
  void whatTakesLongOnAFolderThatAnswersIsWaitedFor() throws IOException {
    CountDownLatch asked = new CountDownLatch(3);
    AnsweringDisk slow =
        new AnsweringDisk(
            new ForwardingDisk(new RealDisk()) {
              @Override
              public Optional<FileFacts> facts(Path path) throws IOException {
                asked.countDown();
                return super.facts(path);
              }

              @Override
              public void flushFolder(Path folder) throws IOException {
                try {
                  asked.await();
                } catch (InterruptedException stopped) {
                  throw new IOException(stopped);
                }
                super.flushFolder(folder);
              }
            },
            p -> share,
            Duration.ofMillis(50));
    slow.flushFolder(share);
    assertThat(asked.getCount()).isZero();
    assertThat(slow.answers(share)).isTrue();
  }

  /** Whatever is written and read in whatever pieces, from wherever: the bytes are the same. */
  @Test
  void bytesAreTheSameInWhateverPieces() throws IOException {
    for (int seed = 0; seed < 40; seed++) {
      Random random = new Random(seed);
      byte[] bytes = new byte[random.nextInt(3) == 0 ? random.nextInt(100) : 2_500_000];
      random.nextBytes(bytes);
      Path file = local.resolve("piece" + seed);
      try (Sink sink = disk.create(file)) {
        for (int at = 0; at < bytes.length; ) {
          int count = Math.min(bytes.length - at, 1 + random.nextInt(700_000));
          sink.write(bytes, at, count);
          at += count;
          if (random.nextInt(4) == 0) {
            sink.flush();
            assertThat(Files.size(file)).isEqualTo(at);
          }
        }
      }
      assertThat(Files.readAllBytes(file)).isEqualTo(bytes);
      try (SeekableByteChannel in = disk.read(file)) {
        int from = random.nextInt(bytes.length + 1);
        in.position(from);
        ByteBuffer some = ByteBuffer.allocate(1 + random.nextInt(1000));
        int count = in.read(some);
        int expected = Math.min(some.capacity(), bytes.length - from);
        assertThat(count).isEqualTo(expected == 0 ? -1 : expected);
        in.position(0);
        InputStream all = Channels.newInputStream(in);
        assertThat(Arrays.equals(all.readAllBytes(), bytes)).isTrue();
        assertThat(in.size()).isEqualTo(bytes.length);
      }
    }
  }

  @Test
  void aFailureOfTheDiskIsToldAsItWas() {
    assertThatThrownBy(() -> disk.read(local.resolve("none")))
        .isInstanceOf(java.nio.file.NoSuchFileException.class);
    assertThatThrownBy(() -> disk.makeFolder(local))
        .isInstanceOf(java.nio.file.FileAlreadyExistsException.class);
  }
}
