package dev.kavrin.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.standin.Scene;
import dev.kavrin.standin.Shapes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The real server killed while it restores, takes back, restores together and packs. */
class KilledRestoresTest {
  private static final int KILLS =
      Integer.getInteger("kavrin.kills", Boolean.getBoolean("kavrin.full") ? 30 : 6);
  private static final List<String> NAMES = List.of("carriage-02.glb", "station.glb");

  private final RealDisk disk = new RealDisk();
  private final Publisher reader = new Publisher(disk, "test");

  @Test
  void nothingIsLostOrHalfAndJournalAndRecordsAgree() throws Exception {
    Random random = new Random(20_310_504);
    try (Service service = new Service()) {
      Path work = Files.createDirectories(service.world().resolve("carriage"));
      Path keep = service.world().resolve("keep");
      Set<ContentId> known = new HashSet<>();
      save(work, 0, known);
      Owner.give(service.world());
      Api api = new Api(service.start());
      assertThat(api.post("api/projects", project(work, keep)).status()).isEqualTo(200);
      for (int n = 1; n <= 3; n++) {
        int backups = 2 * n;
        await()
            .atMost(Duration.ofSeconds(60))
            .until(() -> history(keep).allCaptures().size() >= backups);
        save(work, n, known);
        Owner.give(work);
      }
      for (int kill = 0; kill < KILLS; kill++) {
        AtomicBoolean on = new AtomicBoolean(true);
        Api client = api;
        Thread worker = new Thread(() -> restoreOn(client, service.world(), on));
        worker.start();
        int begun = begun(keep);
        await()
            .atMost(Duration.ofSeconds(60))
            .pollInterval(Duration.ofMillis(1 + random.nextInt(60)))
            .until(() -> begun(keep) > begun + 1);
        service.kill();
        on.set(false);
        worker.join();
        api = new Api(service.start());
        await().atMost(Duration.ofSeconds(60)).until(() -> history(keep).undone().isEmpty());
        check(work, keep, known, "kill " + kill);
      }
      agree(api, keep);
    }
  }

  private static void save(Path work, int n, Set<ContentId> known) throws IOException {
    for (String name : NAMES) {
      Scene scene = new Scene();
      scene.put("Frame", "Body", Shapes.box(2, 1 + n / 10.0, name.length(), 40));
      Path fresh = work.resolve("fresh.part");
      Files.write(fresh, scene.toGlb());
      known.add(new Publisher(new RealDisk(), "test").identify(fresh));
      Files.move(fresh, work.resolve(name), java.nio.file.StandardCopyOption.ATOMIC_MOVE);
    }
  }

  private static String project(Path work, Path keep) {
    return """
        {"name": "Carriage", "folder": "%s", "rule": ["*.glb"], "recovery": "%s",
         "plan": {"interval": "PT1S", "quiet": "PT2S", "hardLimit": "PT60S", "accepted": "PT30M",
          "keep": {"newest": 6, "hourly": "PT0S", "daily": "PT0S", "weekly": "PT0S", "ring": 0, "room": 0}}}
        """
        .formatted(work, keep);
  }

  private History history(Path keep) throws IOException {
    return History.of(new Journal(disk, BackupFolder.journalFile(keep)).readAll().entries());
  }

  private int begun(Path keep) throws IOException {
    return (int)
        new Journal(disk, BackupFolder.journalFile(keep))
            .readAll().entries().stream().filter(JournalEntry.Begun.class::isInstance).count();
  }

  /** Whatever goes wrong, because the server is gone, is tried again at the next. */
  private static void restoreOn(Api api, Path world, AtomicBoolean on) {
    for (int turn = 0; on.get(); turn++) {
      try {
        restoreOnce(api, world, turn);
      } catch (IOException | RuntimeException gone) {
        if (!on.get()) {
          return;
        }
      } catch (InterruptedException stopped) {
        Thread.currentThread().interrupt();
        return;
      }
    }
  }

  private static void restoreOnce(Api api, Path world, int turn)
      throws IOException, InterruptedException {
    JsonNode project = api.get("api/overview").body().path("projects").get(0);
    List<String> wishes = new ArrayList<>();
    for (JsonNode document : project.path("documents")) {
      String id = document.path("id").asString();
      JsonNode states = api.get("api/documents/" + id + "/trail").body().path("states");
      String state = states.get(turn % states.size()).path("id").asString();
      wishes.add(
          "{\"document\":\"%s\",\"state\":\"%s\",\"mode\":\"REPLACE\"}".formatted(id, state));
    }
    String group = "api/projects/" + project.path("id").asString() + "/group-restores";
    String all = "\"wishes\":[" + String.join(",", wishes) + "]";
    String digest = api.post(group + "/preview", "{" + all + "}").body().path("digest").asString();
    JsonNode done =
        api.post(group, "{\"what\":\"as of then\"," + all + ",\"digest\":\"" + digest + "\"}")
            .body();
    if (turn % 2 == 0 && done.path("done").asBoolean()) {
      api.post("api/group-restores/" + done.path("id").asString() + "/undo", "{}");
    }
  }

  /** Every content ever saved stands somewhere whole, and nothing under a person's name is half. */
  private void check(Path work, Path keep, Set<ContentId> known, String when) throws IOException {
    Set<ContentId> standing = new HashSet<>();
    for (Path root : List.of(work, keep)) {
      try (Stream<Path> all = Files.walk(root)) {
        for (Path file : all.filter(p -> p.toString().endsWith(".glb")).toList()) {
          ContentId content = reader.identify(file);
          standing.add(content);
          assertThat(known).as("%s, %s", file, when).contains(content);
        }
      }
    }
    assertThat(standing).as(when).containsAll(known);
    for (String name : NAMES) {
      assertThat(work.resolve(name)).exists();
    }
  }

  /** What the journal calls done has a receipt on the page. */
  private void agree(Api api, Path keep) throws IOException, InterruptedException {
    Set<String> done = new HashSet<>();
    for (JournalEntry entry :
        new Journal(disk, BackupFolder.journalFile(keep)).readAll().entries()) {
      if (entry instanceof JournalEntry.Done e
          && e.operation().planned() instanceof Operation.Restore restore) {
        restore.members().forEach(m -> done.add(m.id().toString()));
      }
    }
    assertThat(done).isNotEmpty();
    JsonNode project = api.get("api/overview").body().path("projects").get(0);
    await()
        .atMost(Duration.ofSeconds(60))
        .untilAsserted(
            () -> {
              Set<String> shown = new HashSet<>();
              for (JsonNode document : project.path("documents")) {
                api.get("api/documents/" + document.path("id").asString() + "/restores")
                    .body()
                    .forEach(r -> shown.add(r.path("id").asString()));
              }
              assertThat(shown).isEqualTo(done);
            });
  }
}
