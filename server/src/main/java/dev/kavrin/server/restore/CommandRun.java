package dev.kavrin.server.restore;

import jakarta.annotation.Nullable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/**
 * A person's command, run in a session of its own. It is over when the command itself is: what it
 * left running in the background is not waited for, and goes with it.
 */
final class CommandRun {
  private static final int TAIL = 8_000;
  private static final Duration LAST_WORDS = Duration.ofSeconds(1);

  private final Process process;
  private final Tail tail;

  /**
   * How it ended.
   *
   * @param exit its exit status, null if it took too long
   * @param output the end of what it wrote
   */
  record End(@Nullable Integer exit, String output) {}

  private CommandRun(Process process) {
    this.process = process;
    this.tail = new Tail(process.getInputStream());
  }

  static End of(String command, Path folder, Map<String, String> environment, Duration longest)
      throws IOException {
    ProcessBuilder builder =
        new ProcessBuilder("setsid", "--wait", "/bin/sh", "-c", command)
            .directory(folder.toFile())
            .redirectErrorStream(true);
    builder.environment().putAll(environment);
    Process process = builder.start();
    process.getOutputStream().close();
    return new CommandRun(process).end(longest);
  }

  private End end(Duration longest) throws IOException {
    tail.start();
    Integer exit = null;
    try {
      if (process.waitFor(longest.toMillis(), TimeUnit.MILLISECONDS)) {
        exit = process.exitValue();
        tail.join(LAST_WORDS.toMillis());
      }
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
    }
    endSession();
    return new End(exit, tail.text());
  }

  private void endSession() throws IOException {
    List<ProcessHandle> started = process.descendants().toList();
    new ProcessBuilder("/bin/sh", "-c", "kill -s KILL -- -" + process.pid() + " 2>/dev/null")
        .start();
    process.destroyForcibly();
    started.forEach(ProcessHandle::destroyForcibly);
  }

  /** The end of what a program writes. */
  private static final class Tail extends Thread {
    private final InputStream in;
    private byte[] kept = new byte[0];

    Tail(InputStream in) {
      super("command-output");
      setDaemon(true);
      this.in = in;
    }

    @Override
    public void run() {
      byte[] block = new byte[1 << 13];
      try {
        for (int n = in.read(block); n >= 0; n = in.read(block)) {
          keep(block, n);
        }
      } catch (IOException ended) {
        // The program is gone; what it wrote before is kept.
      }
    }

    private synchronized void keep(byte[] block, int count) {
      byte[] both = Arrays.copyOf(kept, kept.length + count);
      System.arraycopy(block, 0, both, kept.length, count);
      kept = Arrays.copyOfRange(both, Math.max(0, both.length - TAIL), both.length);
    }

    synchronized String text() {
      return new String(kept, StandardCharsets.UTF_8);
    }
  }
}
