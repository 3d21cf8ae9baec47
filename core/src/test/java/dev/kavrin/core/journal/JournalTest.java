package dev.kavrin.core.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.kavrin.core.disk.ForwardingDisk;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.Sink;
import dev.kavrin.core.journal.JournalEntry.Marked;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Several who write at once: each line arrives once, in its writer's order, or its writer fails.
 */
class JournalTest {
  private static final int WRITERS = 8;

  @TempDir Path folder;
  private final AtomicInteger flushes = new AtomicInteger();
  private volatile CountDownLatch held = new CountDownLatch(0);
  private volatile boolean full;
  private Journal journal;

  /** A disk whose first flush waits until it is let go, and that may be full. */
  private final class Slow extends ForwardingDisk {
    Slow() {
      super(new RealDisk());
    }

    @Override
    public Sink append(Path file) throws IOException {
      Sink sink = super.append(file);
      return new Sink() {
        @Override
        public void write(byte[] bytes, int offset, int count) throws IOException {
          sink.write(bytes, offset, full ? count / 2 : count);
        }

        @Override
        public void flush() throws IOException {
          flushes.incrementAndGet();
          try {
            assertThat(held.await(1, TimeUnit.MINUTES)).isTrue();
          } catch (InterruptedException stopped) {
            throw new AssertionError(stopped);
          }
          if (full) {
            throw new IOException("No space left on device");
          }
          sink.flush();
        }

        @Override
        public void close() throws IOException {
          sink.close();
        }
      };
    }
  }

  @BeforeEach
  void open() {
    journal = new Journal(new Slow(), folder.resolve("journal.jsonl"));
  }

  private static Marked line(String writer, int number) {
    return new Marked(
        Instant.EPOCH, new UUID(1, 1), writer, "pinned", true, "Ilse Quarn", "" + number);
  }

  private static List<Marked> pair(String writer, int number) {
    return List.of(line(writer, 2 * number), line(writer, 2 * number + 1));
  }

  @Test
  void whatSeveralWriteAtOnceArrivesOnceAndInTheOrderOfEach() throws Exception {
    ExecutorService writers = Executors.newFixedThreadPool(WRITERS);
    List<Future<?>> all = new ArrayList<>();
    for (int w = 0; w < WRITERS; w++) {
      String name = "writer " + w;
      all.add(
          writers.submit(
              () -> {
                for (int n = 0; n < 50; n++) {
                  journal.append(pair(name, n));
                }
                return null;
              }));
    }
    for (Future<?> each : all) {
      each.get(2, TimeUnit.MINUTES);
    }
    writers.shutdown();
    List<JournalEntry> read = journal.readAll().entries();
    assertThat(read).hasSize(WRITERS * 100);
    for (int w = 0; w < WRITERS; w++) {
      String name = "writer " + w;
      List<Integer> numbers =
          read.stream()
              .map(Marked.class::cast)
              .filter(m -> m.state().equals(name))
              .map(m -> Integer.valueOf(m.note()))
              .toList();
      assertThat(numbers).isEqualTo(IntStream.range(0, 100).boxed().toList());
    }
    assertThat(read)
        .as("nobody's lines between two of one call")
        .satisfies(
            lines -> {
              for (int i = 0; i < lines.size(); i += 2) {
                assertThat(((Marked) lines.get(i)).state())
                    .isEqualTo(((Marked) lines.get(i + 1)).state());
              }
            });
    assertThat(flushes.get()).isLessThanOrEqualTo(WRITERS * 50);
  }

  @Test
  void thoseWhoComeWhileTheDeviceIsBusyShareOneFlush() throws Exception {
    held = new CountDownLatch(1);
    List<Thread> writers = new ArrayList<>();
    List<IOException> failures = new ArrayList<>();
    begin(writers, failures, 0);
    while (flushes.get() == 0) {
      Thread.onSpinWait();
    }
    for (int w = 1; w < WRITERS; w++) {
      begin(writers, failures, w);
    }
    for (Thread writer : writers.subList(1, WRITERS)) {
      while (writer.getState() != Thread.State.BLOCKED) {
        Thread.onSpinWait();
      }
    }
    held.countDown();
    for (Thread writer : writers) {
      writer.join();
    }
    assertThat(failures).isEmpty();
    assertThat(flushes).hasValue(2);
    assertThat(journal.readAll().entries()).hasSize(2 * WRITERS);
  }

  private void begin(List<Thread> writers, List<IOException> failures, int number) {
    Thread writer =
        new Thread(
            () -> {
              try {
                journal.append(pair("writer " + number, 0));
              } catch (IOException failed) {
                synchronized (failures) {
                  failures.add(failed);
                }
              }
            });
    writers.add(writer);
    writer.start();
  }

  @Test
  void aFullDeviceFailsAllWhoseLinesWereInOneGoAndWhatComesLaterStandsOnALineOfItsOwn()
      throws Exception {
    journal.append(List.of(line("before", 1)));
    full = true;
    assertThatThrownBy(() -> journal.append(List.of(line("lost", 2))))
        .isInstanceOf(IOException.class)
        .hasMessage("No space left on device");
    full = false;
    journal.append(List.of(line("after", 3)));
    assertThat(journal.readAll().entries())
        .extracting(e -> ((Marked) e).state())
        .containsExactly("before", "after");
  }
}
