package dev.kavrin.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.Verdict;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.BackupRecord;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.profile.CopyKind;
import dev.kavrin.standin.Kills;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/**
 * The real server and a real program killed together, or the program closed, at random moments
 * after it wrote aside: what Kavrin had got hold of by then is found, whole and in order, although
 * the program takes its own copies away or writes over them.
 */
class AutosavesKilledTest {
  private static final int KILLS = Kills.of(3, 30, 100);

  private final RealDisk disk = new RealDisk();
  private final Publisher reader = new Publisher(disk, "test");

  @Test
  void writtenAnewUnderTheSameNameOrDeletedAtClose() throws Exception {
    killAgainAndAgain("safety.over=false\nsafety.clears=true\nsafety.slots=2\nlock.names=true\n");
  }

  @Test
  void writtenOverInPlace() throws Exception {
    killAgainAndAgain("safety.over=true\nsafety.clears=true\nsafety.slots=1\n");
  }

  private void killAgainAndAgain(String settings) throws Exception {
    Random random = new Random(settings.hashCode());
    try (Service service = new Service()) {
      Path work = Files.createDirectories(service.world().resolve("carriage"));
      Path keep = service.world().resolve("keep");
      Path model = Files.write(work.resolve("carriage-02.glb"), frame());
      Path own = Files.writeString(service.world().resolve("modeller.settings"), settings);
      Owner.give(service.world());
      Api api = new Api(service.start());
      assertThat(api.post("api/projects", project(work, keep)).status()).isEqualTo(200);
      List<ContentId> promised = new ArrayList<>();
      for (int kill = 0; kill < KILLS; kill++) {
        try (Program program = Program.modeller(service, model, own)) {
          for (int n = 0; n <= random.nextInt(2); n++) {
            program.say("add Part " + kill + "-" + n);
            program.say("copy");
            promised.add(guarded(work, keep));
          }
          LockSupport.parkNanos(random.nextInt(400) * 1_000_000L);
          if (random.nextBoolean()) {
            program.begin("close");
          }
          service.kill();
          program.kill();
        }
        drop(work.resolve(".drafts"));
        service.start();
      }
      await().atMost(Patience.LONG).untilAsserted(() -> assertThat(retained(work)).isEmpty());
      found(keep, promised);
    }
  }

  private static byte[] frame() {
    Scene scene = new Scene();
    scene.put("Frame", "Body", Shapes.box(2, 1, 1, 40));
    return scene.toGlb();
  }

  private static String project(Path work, Path keep) {
    return """
        {"name": "Carriage", "folder": "%s", "rule": ["*.glb"], "recovery": "%s",
         "program": {"name": "Bench", "process": "ModellerProcess", "sessionSign": ".{stem}.open",
          "leftovers": [{"kind": "AUTOSAVE", "folder": ".drafts", "pattern": "{stem}~{n}.tmp"}]},
         "plan": {"interval": "PT1H", "quiet": "PT2S", "hardLimit": "PT60S", "accepted": "PT30M",
          "programCopies": {"newest": 1000, "hourly": "PT0S"},
          "keep": {"newest": 6, "hourly": "PT0S", "daily": "PT0S", "weekly": "PT0S", "ring": 0, "room": 0}}}
        """
        .formatted(work, keep);
  }

  /** The program's newest copy, as soon as Kavrin has bytes of it that the program cannot reach. */
  private ContentId guarded(Path work, Path keep) throws IOException {
    ContentId newest = newest(work.resolve(".drafts"));
    await()
        .atMost(Patience.LONG)
        .pollInterval(Duration.ofMillis(20))
        .until(() -> isCopied(keep, newest) || isRetainedApart(work, newest));
    return newest;
  }

  private ContentId newest(Path drafts) throws IOException {
    try (Stream<Path> all = Files.list(drafts)) {
      Path file =
          all.filter(f -> f.toString().endsWith(".tmp"))
              .max(java.util.Comparator.comparing(f -> f.toFile().lastModified()))
              .orElseThrow();
      return reader.identify(file);
    }
  }

  private boolean isCopied(Path keep, ContentId content) throws IOException {
    return history(keep).allCaptures().stream().anyMatch(b -> b.content().equals(content));
  }

  /** A second name alone guards nothing that is written over in place. */
  private boolean isRetainedApart(Path work, ContentId content) throws IOException {
    boolean over =
        Files.readString(work.resolveSibling("modeller.settings")).contains("safety.over=true");
    for (Path file : over ? List.<Path>of() : retained(work)) {
      try {
        if (reader.identify(file).equals(content)) {
          return true;
        }
      } catch (NoSuchFileException copied) {
        // It stands among the backups by now.
      }
    }
    return false;
  }

  private static List<Path> retained(Path work) throws IOException {
    Path drafts = work.resolve(".drafts");
    if (Files.notExists(drafts)) {
      return List.of();
    }
    try (Stream<Path> all = Files.walk(drafts)) {
      return all.filter(f -> f.toString().contains("/.kavrin/"))
          .filter(f -> f.toString().endsWith(".tmp"))
          .toList();
    } catch (java.io.UncheckedIOException changing) {
      return retained(work);
    }
  }

  /** As the program's next start does. */
  private static void drop(Path drafts) throws IOException {
    try (Stream<Path> all = Files.list(drafts)) {
      for (Path copy : all.filter(f -> f.toString().endsWith(".tmp")).toList()) {
        Files.deleteIfExists(copy);
      }
    }
  }

  private History history(Path keep) throws IOException {
    return History.of(new Journal(disk, BackupFolder.journalFile(keep)).readAll().entries());
  }

  private void found(Path keep, List<ContentId> promised) throws IOException {
    List<BackupRecord> kept =
        history(keep).allCaptures().stream()
            .filter(b -> b.sourceKind() == CopyKind.AUTOSAVE)
            .toList();
    assertThat(kept).allMatch(b -> b.verdict() == Verdict.INTACT);
    for (BackupRecord backup : kept) {
      assertThat(reader.identify(keep.resolve(backup.path()))).isEqualTo(backup.content());
    }
    assertThat(kept.stream().map(BackupRecord::content).distinct().filter(promised::contains))
        .containsExactlyElementsOf(promised);
  }
}
