package dev.kavrin.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.microsoft.playwright.Page;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.disk.StageName;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.standin.Kills;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.List;
import java.util.Random;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;

/** The real server killed at random moments while a file changes all the time. */
class KillTest {
  private static final int KILLS = Kills.of(10, 30, 200);

  private final RealDisk disk = new RealDisk();

  @Test
  void noIntactStateIsLostAndNoHalfFilePassesForWhole() throws Exception {
    Random random = new Random(20_310_503);
    try (Service service = new Service()) {
      Path work = Files.createDirectories(service.world().resolve("carriage"));
      Path keep = service.world().resolve("keep");
      Path model = work.resolve("carriage-02.glb");
      Files.write(model, version(0));
      Owner.give(service.world());
      try (Browser browser = new Browser()) {
        Page page = browser.enter(service.start());
        makeProject(page, work, keep);
      }
      service.end();
      service.launch();
      AtomicBoolean working = new AtomicBoolean(true);
      Thread worker = new Thread(() -> work(model, working));
      worker.start();
      long captured = 0;
      for (int kill = 0; kill < KILLS; kill++) {
        long wanted = captured + 1 + random.nextInt(3);
        await()
            .atMost(Patience.LONG)
            .pollInterval(Duration.ofMillis(1 + random.nextInt(90)))
            .until(() -> journalLines(keep) >= wanted);
        service.kill();
        captured = journalLines(keep);
        checkFolder(keep);
        service.launch();
      }
      working.set(false);
      worker.join();
      await().atMost(Patience.LONG).untilAsserted(() -> assertThat(stages(keep)).isEmpty());
      assertThat(checkFolder(keep).allCaptures()).isNotEmpty();
      try (Browser browser = new Browser()) {
        service.kill();
        Page page = browser.enter(service.start());
        assertThat(shownCopies(page)).isEqualTo(captures(keep));
      }
    }
  }

  private static byte[] version(int n) {
    Scene scene = new Scene();
    scene.put("Frame", "Body", Shapes.box(2, 1 + n / 100.0, 1, 40));
    return scene.toGlb();
  }

  private static void work(Path model, AtomicBoolean working) {
    Path fresh = model.resolveSibling("fresh.part");
    for (int n = 1; working.get(); n++) {
      try {
        Files.write(fresh, version(n));
        Files.move(fresh, model, StandardCopyOption.ATOMIC_MOVE);
        java.util.concurrent.locks.LockSupport.parkNanos(Duration.ofMillis(3100).toNanos());
      } catch (IOException failed) {
        throw new java.io.UncheckedIOException(failed);
      }
    }
  }

  private static void makeProject(Page page, Path work, Path keep) {
    Object made =
        page.evaluate(
            """
            async ([work, keep]) => {
              await fetch('/api/session');
              const token = decodeURIComponent(document.cookie.match(/XSRF-TOKEN=([^;]*)/)[1]);
              const answer = await fetch('/api/projects', {method: 'POST',
                headers: {'Content-Type': 'application/json', 'X-XSRF-TOKEN': token},
                body: JSON.stringify({name: 'Carriage', folder: work, rule: ['*.glb'], recovery: keep,
                  plan: {interval: 'PT1S', quiet: 'PT2S', hardLimit: 'PT60S', keep: {newest: 3, hourly: 'PT0S', daily: 'PT0S', weekly: 'PT0S', ring: 0, room: 0}, accepted: 'PT30M'}})});
              const job = await answer.json();
              while (!job.ended) Object.assign(job, await (await fetch(`/api/jobs/${job.id}?wait=15`)).json());
              return job.state;
            }""",
            List.of(work.toString(), keep.toString()));
    assertThat(made).isEqualTo("DONE");
  }

  private static Object shownCopies(Page page) {
    return page.evaluate(
        "async () => (await (await fetch('/api/overview')).json()).projects[0].documents[0].copies");
  }

  private static long journalLines(Path keep) throws IOException {
    Path journal = BackupFolder.journalFile(keep);
    if (Files.notExists(journal)) {
      return 0;
    }
    try (var lines = Files.lines(journal)) {
      return lines
          .filter(l -> l.contains("\"t\":\"done\"") && l.contains("\"kind\":\"backup\""))
          .count();
    }
  }

  private int captures(Path keep) throws IOException {
    return History.of(new Journal(disk, BackupFolder.journalFile(keep)).readAll().entries())
        .allCaptures()
        .size();
  }

  /** Every copy the journal calls done stands, whole, with exactly the bytes it says. */
  private History checkFolder(Path keep) throws IOException {
    History history =
        History.of(new Journal(disk, BackupFolder.journalFile(keep)).readAll().entries());
    Publisher reader = new Publisher(disk, "test");
    List<String> beingDropped =
        history.undone().stream()
            .map(Operation::planned)
            .filter(Operation.Drop.class::isInstance)
            .map(p -> ((Operation.Drop) p).path())
            .toList();
    for (BackupRecord capture : history.allCaptures()) {
      Path file = keep.resolve(capture.path());
      if (beingDropped.contains(capture.path()) && Files.notExists(file)) {
        continue;
      }
      assertThat(reader.identify(file)).as(capture.path()).isEqualTo(capture.content());
    }
    return history;
  }

  private static List<Path> stages(Path keep) throws IOException {
    try (var all = Files.walk(keep)) {
      return all.filter(p -> p.getFileName() != null && StageName.is(p)).toList();
    }
  }
}
