package dev.kavrin.server.restore;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A person's command is over when it is over itself. */
class CommandRunTest {
  private static final Duration LONG = Duration.ofMinutes(2);
  private static final String FOR_EVER = "tail -f /dev/null";

  @TempDir private Path folder;

  private CommandRun.End run(String command, Duration longest) throws IOException {
    return CommandRun.of(command, folder, Map.of("KAVRIN_STEP", "12"), longest);
  }

  /** The number of the process that a command said it started. */
  private static long started(String output) {
    return Long.parseLong(output.lines().findFirst().orElseThrow().strip());
  }

  /** What has ended and was not collected by its parent yet has a number, but no program. */
  private static boolean runs(long pid) {
    return ProcessHandle.of(pid).flatMap(process -> process.info().command()).isPresent();
  }

  @Test
  void whatItLeavesInTheBackgroundIsNotWaitedForAndGoesWithIt() throws IOException {
    CommandRun.End end = run(FOR_EVER + " & echo $!; echo step $KAVRIN_STEP; exit 3", LONG);
    assertThat(end.exit()).isEqualTo(3);
    assertThat(end.output()).contains("step 12");
    await().atMost(LONG).until(() -> !runs(started(end.output())));
  }

  @Test
  void whatTakesTooLongIsStoppedWithAllItStarted() throws IOException {
    CommandRun.End end = run(FOR_EVER + " & echo $!; " + FOR_EVER, Duration.ofSeconds(3));
    assertThat(end.exit()).isNull();
    await().atMost(LONG).until(() -> !runs(started(end.output())));
  }

  @Test
  void onlyTheEndOfALongOutputIsKept() throws IOException {
    CommandRun.End end = run("head -c 5000000 /dev/zero | tr '\\000' x; echo; echo last", LONG);
    assertThat(end.exit()).isZero();
    assertThat(end.output()).hasSizeLessThan(10_000).endsWith("last\n");
  }
}
