package dev.kavrin.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.bundle.BagCheck;
import dev.kavrin.core.chunk.ContentId;
import dev.kavrin.core.disk.Publisher;
import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.journal.BackupFolder;
import dev.kavrin.core.journal.History;
import dev.kavrin.core.journal.Journal;
import dev.kavrin.core.journal.JournalEntry;
import dev.kavrin.core.journal.Operation;
import dev.kavrin.standin.Kills;
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
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * The real server killed while it restores, takes back, restores together, packs bundles and clears
 * leftovers away.
 */
@Order(1)
class KilledRestoresTest {
  private static final int KILLS = Kills.of(10, 30, 100);
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
        await().atMost(Patience.LONG).until(() -> history(keep).allCaptures().size() >= backups);
        save(work, n, known);
        Owner.give(work);
      }
      service.end();
      api = new Api(service.start());
      for (int kill = 0; kill < KILLS; kill++) {
        AtomicBoolean on = new AtomicBoolean(true);
        Api client = api;
        AtomicReference<Object> last = new AtomicReference<>("nothing yet");
        Thread worker = new Thread(() -> restoreOn(client, service.world(), on, last));
        worker.start();
        int begun = begun(keep);
        await()
            .atMost(Patience.LONG)
            .pollInterval(Duration.ofMillis(1 + random.nextInt(60)))
            .untilAsserted(
                () ->
                    assertThat(begun(keep))
                        .as("operations, the last answer being %s", last.get())
                        .isGreaterThan(begun + 1));
        service.kill();
        on.set(false);
        worker.join();
        api = new Api(service.start());
        await().atMost(Patience.LONG).until(() -> history(keep).undone().isEmpty());
        check(service.world(), known, "kill " + kill);
      }
      // On a slow machine every one of them may have been cut off and taken back.
      Api settled = api;
      await()
          .atMost(Patience.LONG)
          .until(() -> restoreOnce(settled, service.world(), 1).body().path("done").asBoolean());
      agree(api, keep);
      agreeOnBundles(api);
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
         "program": {"name": "Bench", "process": "no-process-has-these-words", "leftovers": [
          {"kind": "AUTOSAVE", "folder": ".drafts", "pattern": "{stem}~{n}.glb"}]},
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
  private static void restoreOn(
      Api api, Path world, AtomicBoolean on, AtomicReference<Object> last) {
    for (int turn = 0; on.get(); turn++) {
      try {
        last.set(restoreOnce(api, world, turn));
      } catch (IOException | RuntimeException gone) {
        last.set(gone);
        if (!on.get()) {
          return;
        }
      } catch (InterruptedException stopped) {
        Thread.currentThread().interrupt();
        return;
      }
    }
  }

  private static Api.Answer restoreOnce(Api api, Path world, int turn)
      throws IOException, InterruptedException {
    JsonNode project = api.get("api/overview").body().path("projects").get(0);
    List<String> wishes = new ArrayList<>();
    for (JsonNode document : project.path("documents")) {
      String id = document.path("id").asString();
      JsonNode states = api.get("api/documents/" + id + "/versions").body().path("states");
      String state = states.get(turn % states.size()).path("id").asString();
      wishes.add(
          "{\"document\":\"%s\",\"state\":\"%s\",\"mode\":\"REPLACE\"}".formatted(id, state));
    }
    String group = "api/projects/" + project.path("id").asString() + "/group-restores";
    String all = "\"wishes\":[" + String.join(",", wishes) + "]";
    String digest = api.post(group + "/preview", "{" + all + "}").body().path("digest").asString();
    Api.Answer answer =
        api.post(group, "{\"what\":\"as of then\"," + all + ",\"digest\":\"" + digest + "\"}");
    JsonNode done = answer.body();
    if (turn % 2 == 0 && done.path("done").asBoolean()) {
      api.post("api/group-restores/" + done.path("id").asString() + "/undo", "{}");
    }
    if (turn % 3 == 0) {
      pack(api, world, project, wishes.size());
      clearLeftovers(api, world, project);
    }
    return answer;
  }

  /** Into a new folder each time. */
  private static void pack(Api api, Path world, JsonNode project, int documents)
      throws IOException, InterruptedException {
    List<String> choices = new ArrayList<>();
    for (int n = 0; n < documents; n++) {
      String id = project.path("documents").get(n).path("id").asString();
      JsonNode states = api.get("api/documents/" + id + "/versions").body().path("states");
      choices.add(
          "{\"document\":\"%s\",\"state\":\"%s\"}"
              .formatted(id, states.get(0).path("id").asString()));
    }
    api.post(
        "api/bundles",
        "{\"choices\":[%s],\"folder\":\"%s\",\"allowed\":[],\"name\":\"n\",\"note\":\"\",\"questions\":\"\",\"mark\":\"\"}"
            .formatted(
                String.join(",", choices),
                world.resolve("bundles").resolve("b" + System.nanoTime())));
  }

  /** What was put in its place is a leftover, too: it is copied, then taken away. */
  private static void clearLeftovers(Api api, Path world, JsonNode project)
      throws IOException, InterruptedException {
    Path drafts = Files.createDirectories(world.resolve("carriage/.drafts"));
    for (String name : NAMES) {
      Path leftover = drafts.resolve(name.replace(".glb", "~1.glb"));
      Files.copy(
          world.resolve("carriage").resolve(name),
          leftover,
          java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    }
    Owner.give(drafts);
    String path = "api/projects/" + project.path("id").asString() + "/leftovers";
    List<String> files = new ArrayList<>();
    api.get(path)
        .body()
        .path("files")
        .forEach(
            f ->
                files.add(
                    "{\"path\":%s,\"modified\":%s}".formatted(f.path("path"), f.path("modified"))));
    api.post(path, "{\"files\":[" + String.join(",", files) + "]}");
  }

  /** Every content ever saved stands somewhere whole, and nothing under a person's name is half. */
  private void check(Path world, Set<ContentId> known, String when) throws IOException {
    Set<ContentId> standing = new HashSet<>();
    for (Path file : models(world)) {
      try {
        ContentId content = reader.identify(file);
        standing.add(content);
        assertThat(known).as("%s, %s", file, when).contains(content);
      } catch (java.nio.file.NoSuchFileException movedOn) {
        assertThat(file).as(when).doesNotExist();
      }
    }
    assertThat(standing).as(when).containsAll(known);
    for (String name : NAMES) {
      assertThat(world.resolve("carriage").resolve(name)).exists();
    }
  }

  /**
   * Jobs that were taken up again go on meanwhile: what came or went since is looked at once more.
   */
  private static List<Path> models(Path world) throws IOException {
    while (true) {
      try (Stream<Path> all = Files.walk(world)) {
        return all.filter(p -> p.toString().endsWith(".glb") && !isStage(p)).toList();
      } catch (java.io.UncheckedIOException cameAndWent) {
        continue;
      }
    }
  }

  private static boolean isStage(Path file) {
    return file.getFileName().toString().startsWith(".");
  }

  /** Each bundle that is called done is one, by its own manifest. */
  private void agreeOnBundles(Api api) throws Exception {
    await()
        .atMost(Patience.LONG)
        .until(() -> jobs(api).stream().noneMatch(j -> j.path("ended").isMissingNode()));
    List<JsonNode> done =
        jobs(api).stream()
            .filter(j -> j.path("kind").asString().equals("bundle"))
            .filter(j -> j.path("state").asString().equals("DONE"))
            .toList();
    for (JsonNode bundle : done) {
      Path folder = Path.of(bundle.path("key").asString());
      assertThat(new BagCheck(disk).of(folder).isValid()).as(folder.toString()).isTrue();
    }
    System.out.printf("Killed %d times: %d bundles called done, each valid%n", KILLS, done.size());
    assertThat(done).isNotEmpty();
  }

  private static List<JsonNode> jobs(Api api) throws IOException, InterruptedException {
    List<JsonNode> jobs = new ArrayList<>();
    api.get("api/jobs").body().forEach(jobs::add);
    return jobs;
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
        .atMost(Patience.LONG)
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
