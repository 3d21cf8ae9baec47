package dev.kavrin.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Stream;

/**
 * How late a document of 1 MB is backed up, and what a crash left behind is secured, alone and
 * beside a copy of 20 GB on the same disk; past the rule, which is two seconds without a write.
 */
final class LanesBench {
  private static final Duration RULE = Duration.ofSeconds(2);
  private static final double TARGET = 2;
  private static final int ALONE = 7;
  private static final int MOST = 40;
  private static final int SMALL = 1_000_000;

  private final Path folder;
  private final Visitor visitor;
  private final Random random = new Random(1);

  private LanesBench(Path folder, Visitor visitor) {
    this.folder = folder;
    this.visitor = visitor;
  }

  static void run(Path folder, String link) throws Exception {
    new LanesBench(folder, new Visitor(link)).run();
  }

  private void run() throws Exception {
    String size = System.getenv("KAVRIN_BENCH_GB");
    long gigabytes = size == null ? 20 : Long.parseLong(size);
    Path large = folder.resolve("large");
    Files.createDirectories(large);
    write(large.resolve("simulation.bin"), gigabytes * 1_000_000_000L);
    Path small = Files.createDirectories(folder.resolve("small"));
    write(small.resolve("drawing.bin"), SMALL);
    project(small);
    await(() -> backups("small") == 1);
    List<Double> saved = new ArrayList<>();
    List<Double> secured = new ArrayList<>();
    for (int turn = 0; turn < ALONE; turn++) {
      measure(small, turn, saved, secured);
    }
    tell("alone", saved, secured);
    long began = System.nanoTime();
    project(large);
    await(() -> isCopied("large"));
    saved.clear();
    secured.clear();
    for (int turn = 0; turn < MOST && backups("large") == 0; turn++) {
      measure(small, ALONE + turn, saved, secured);
    }
    boolean stillCopying = backups("large") == 0;
    await(() -> backups("large") == 1);
    tell("beside a copy of %d GB".formatted(gigabytes), saved, secured);
    System.out.printf(
        Locale.ROOT,
        "  the large copy took %.0f s; %d of each measured%s%n",
        (System.nanoTime() - began) / 1e9,
        saved.size(),
        stillCopying ? "" : " until it was done");
  }

  /** One save, then one crash. */
  private void measure(Path small, int turn, List<Double> saved, List<Double> secured)
      throws Exception {
    long before = backups("small");
    write(small.resolve("drawing.bin"), SMALL);
    long wrote = System.nanoTime();
    await(() -> backups("small") > before);
    saved.add((System.nanoTime() - wrote - RULE.toNanos()) / 1e9);
    long then = backups("small");
    write(small.resolve("drawing.bin.rescue"), SMALL);
    Files.writeString(small.resolve(".drawing.open"), "turn " + turn);
    long crashed = System.nanoTime();
    await(() -> backups("small") > then);
    secured.add((System.nanoTime() - crashed) / 1e9);
  }

  private static void tell(String when, List<Double> saved, List<Double> secured) {
    tell("lanes: backup of 1 MB past its rule, " + when, saved);
    tell("lanes: a rescue file of 1 MB secured after its program died, " + when, secured);
  }

  private static void tell(String what, List<Double> seconds) {
    double[] sorted = seconds.stream().mapToDouble(Double::doubleValue).toArray();
    Arrays.sort(sorted);
    double last = sorted.length == 0 ? Double.NaN : sorted[sorted.length - 1];
    System.out.printf(
        Locale.ROOT,
        "%s%n  median %.2f s, at most %.2f s in %d (target %.0f s: %s)%n",
        what,
        sorted.length == 0 ? Double.NaN : sorted[sorted.length / 2],
        last,
        sorted.length,
        TARGET,
        last <= TARGET ? "met" : "missed");
  }

  private void project(Path work) throws Exception {
    HttpResponse<String> answer =
        visitor.post(
            "/api/projects",
            """
            {"name":"%1$s","folder":"%2$s","rule":["*.bin"],"recovery":"%2$s-kept",
             "program":{"name":"Bench","process":"no-process-has-these-words",
               "sessionSign":".{stem}.open","leftovers":[
               {"kind":"RESCUE","folder":".","pattern":"{stem}.bin.rescue"}]},
             "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT4H","keep":{"newest":500,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
            """
                .formatted(work.getFileName(), work));
    if (answer.statusCode() != 202) {
      throw new IllegalStateException(answer.statusCode() + " " + answer.body());
    }
  }

  private interface Condition {
    boolean holds() throws IOException;
  }

  private static void await(Condition condition) throws IOException {
    long until = System.nanoTime() + Duration.ofMinutes(30).toNanos();
    while (!condition.holds()) {
      if (System.nanoTime() > until) {
        throw new IllegalStateException("Nothing came within half an hour");
      }
      LockSupport.parkNanos(10_000_000);
    }
  }

  /** Backups that stand under their names. */
  private long backups(String project) throws IOException {
    Path kept = folder.resolve(project + "-kept").resolve(project);
    if (Files.notExists(kept)) {
      return 0;
    }
    try (Stream<Path> all = Files.list(kept)) {
      return all.filter(p -> p.getFileName().toString().matches("[^.].*\\.\\d{6}\\..*")).count();
    }
  }

  /** True once a stage of its backup is being written. */
  private boolean isCopied(String project) throws IOException {
    Path kept = folder.resolve(project + "-kept").resolve(project);
    if (Files.notExists(kept)) {
      return false;
    }
    try (Stream<Path> all = Files.list(kept)) {
      return all.anyMatch(Files::isRegularFile);
    }
  }

  private void write(Path file, long bytes) throws IOException {
    byte[] block = new byte[1_000_000];
    try (OutputStream out = Files.newOutputStream(file)) {
      for (long left = bytes; left > 0; left -= block.length) {
        random.nextBytes(block);
        out.write(block);
      }
    }
  }
}
