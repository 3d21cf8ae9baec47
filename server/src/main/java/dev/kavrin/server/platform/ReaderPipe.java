package dev.kavrin.server.platform;

import dev.kavrin.core.worker.ReaderWorker;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;

/** Lines to and from a reader's process, none of them waited for without end. One caller a time. */
final class ReaderPipe implements AutoCloseable {
  /** So many times its limit may pass before it is given up in any case. */
  private static final int PATIENCE = 60;

  /** One part in so many of the processor's time it gets, or it hangs. */
  private static final int LEAST_SHARE = 100;

  private static final Duration AGAIN = Duration.ofSeconds(2);

  /** A folder that does not tell a file's size in that time is not waited for. */
  private static final Duration ASIDE = Duration.ofSeconds(5);

  /** Bytes; the largest reduced model has less. */
  private static final int LONGEST_ANSWER = 96_000_000;

  private final List<String> command;
  private final ExecutorService reading =
      Executors.newCachedThreadPool(
          task -> {
            Thread thread = new Thread(task, "reader-answers");
            thread.setDaemon(true);
            return thread;
          });
  private Process process;
  private BufferedWriter toReader;
  private BoundedLines fromReader;

  ReaderPipe(List<String> command) {
    this.command = command;
  }

  static List<String> ownReader() {
    Path java = Path.of(System.getProperty("java.home"), "bin", "java");
    return List.of(
        java.toString(),
        "-Xmx256m",
        "-XX:+UseSerialGC",
        "-XX:TieredStopAtLevel=1",
        "-XX:+ExitOnOutOfMemoryError",
        "-Dsun.jnu.encoding=UTF-8",
        "-Dfile.encoding=UTF-8",
        "-Dlogback.configurationFile=quiet-logging.xml",
        "-cp",
        System.getProperty("java.class.path"),
        ReaderWorker.class.getName());
  }

  /** True if the process had to be started. */
  boolean open() throws IOException {
    if (process != null && process.isAlive()) {
      return false;
    }
    process = new ProcessBuilder(command).redirectError(ProcessBuilder.Redirect.DISCARD).start();
    toReader = process.outputWriter(StandardCharsets.UTF_8);
    fromReader = new BoundedLines(process.getInputStream(), LONGEST_ANSWER);
    return true;
  }

  void send(String line) throws IOException {
    toReader.write(line);
    toReader.newLine();
    toReader.flush();
  }

  /**
   * What one request may take, all its lines together.
   *
   * @param used processor time the reader had used before
   * @param limit of the processor's time; on a machine that is busy with other things it may take
   *     many times as long, as long as it gets on
   * @param end of all patience, as {@link System#nanoTime}
   */
  record Budget(Duration used, Duration limit, long end) {}

  Budget budget(Duration limit) {
    return new Budget(used(), limit, System.nanoTime() + limit.multipliedBy(PATIENCE).toNanos());
  }

  /** The next line. */
  String next(Budget budget)
      throws IOException, InterruptedException, ExecutionException, TimeoutException {
    Future<String> reads = reading.submit(fromReader::next);
    Duration known = used();
    Duration left = budget.limit().minus(known.minus(budget.used()));
    Duration wait = left.compareTo(AGAIN) < 0 ? AGAIN : left;
    while (true) {
      try {
        String line = reads.get(wait.toMillis(), TimeUnit.MILLISECONDS);
        if (line == null) {
          throw new IOException("the reader ended (not enough memory?)");
        }
        return line;
      } catch (TimeoutException slow) {
        Duration now = used();
        boolean hangs = now.minus(known).multipliedBy(LEAST_SHARE).compareTo(wait) < 0;
        boolean over = now.minus(budget.used()).compareTo(budget.limit()) >= 0;
        if (hangs || over || System.nanoTime() > budget.end()) {
          throw slow;
        }
        known = now;
        wait = AGAIN;
      }
    }
  }

  /** Processor time it has used; nothing where the host does not tell. */
  private Duration used() {
    return process == null
        ? Duration.ZERO
        : process.info().totalCpuDuration().orElse(Duration.ZERO);
  }

  /** Asks something else that may hang. */
  <T> T aside(Callable<T> asked) throws InterruptedException, ExecutionException, TimeoutException {
    return reading.submit(asked).get(ASIDE.toMillis(), TimeUnit.MILLISECONDS);
  }

  void stop() {
    if (process != null) {
      process.destroyForcibly();
      process = null;
    }
  }

  @Override
  public void close() {
    stop();
    reading.shutdownNow();
  }
}
