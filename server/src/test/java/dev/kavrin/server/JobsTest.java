package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.server.TroubledDisk.Trouble;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What takes long is asked for once, answered at once, told as it goes, and outlives a stop. */
@Order(1)
class JobsTest {

  private final TroubledDisk disk = new TroubledDisk();

  @RegisterExtension private final RunningKavrin app = RunningKavrin.over(disk);

  private String project() {
    return """
    {"name":"Carriage","folder":"%s","rule":["*.glb"],"recovery":"%s",
     "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT60S","keep":{"newest":5,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
    """
        .formatted(app.work(), app.keep());
  }

  private JsonNode job(JsonNode begun) throws Exception {
    return app.client().get("/api/jobs/" + begun.path("id").asString()).json();
  }

  @Test
  void aProjectOnADiskThatIsBusyIsTakenAtOnceAndOnceOnly() throws Exception {
    app.write(app.live(), model("hull"));
    disk.befall(app.live(), Trouble.HANGS);
    Client.Answer begun = app.client().begin("/api/projects", project());
    assertThat(begun.status()).isEqualTo(202);
    Client.Answer again = app.client().begin("/api/projects", project());
    assertThat(again.json().path("id")).isEqualTo(begun.json().path("id"));
    Client.Answer other =
        app.client().begin("/api/projects", project().replace("\"Carriage\"", "\"Waggon\""));
    assertThat(other.status()).isEqualTo(409);
    assertThat(app.client().get("/api/overview").status()).isEqualTo(200);
    disk.heal(app.live());
    Client.Answer made = app.client().ended(begun);
    assertThat(made.status()).isEqualTo(200);
    assertThat(made.json().path("name").asString()).isEqualTo("Carriage");
  }

  @Test
  void whatGoesWrongIsToldAsACallWouldHave() throws Exception {
    app.write(app.live(), model("hull"));
    String inside = project().replace(app.keep().toString(), app.work() + "/keep");
    Client.Answer refused = app.client().post("/api/projects", inside);
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.problem()).isEqualTo("unfit-folder");
    assertThat(app.client().get("/api/jobs").json().at("/0/state").asString()).isEqualTo("FAILED");
  }

  /** The other may end between "it is there already" and a look at it. */
  @Test
  void askedForByManyAtOnceItIsNeverRefusedForBeingThere() throws Exception {
    app.write(app.live(), model("hull"));
    String inside = project().replace(app.keep().toString(), app.work() + "/keep");
    ExecutorService people = Executors.newFixedThreadPool(4);
    try {
      List<Callable<Integer>> asks =
          Collections.nCopies(120, () -> app.client().begin("/api/projects", inside).status());
      for (Future<Integer> status : people.invokeAll(asks)) {
        assertThat(status.get()).isEqualTo(202);
      }
    } finally {
      people.shutdownNow();
    }
  }

  /** A project's job names the project: after a stop in its midst it is made once. */
  @Test
  void oneCutOffByAStopIsTakenUpAgain() throws Exception {
    app.write(app.live(), model("hull"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String id = app.client().get("/api/jobs").json().at("/0/id").asString();
    app.database().run("update job set state = 'RUNNING', ended = null, result = null");
    app.stop();
    app.start();
    await()
        .atMost(Patience.LONG)
        .until(
            () -> app.client().get("/api/jobs/" + id).json().path("state").asString(),
            "DONE"::equals);
    JsonNode job = app.client().get("/api/jobs/" + id).json();
    assertThat(job.path("attempt").asInt()).isEqualTo(2);
    assertThat(job.at("/result/id").asString()).isEqualTo(id);
    assertThat(app.client().get("/api/projects").json().size()).isEqualTo(1);
  }

  /** As when the records were away at the moment it was to begin. */
  @Test
  void oneThatNobodyIsAtIsBegunWithoutAStop() throws Exception {
    app.write(app.live(), model("hull"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String id = app.client().get("/api/jobs").json().at("/0/id").asString();
    app.database().run("update job set state = 'WAITING', ended = null, result = null");
    await()
        .atMost(Patience.LONG)
        .until(
            () -> app.client().get("/api/jobs/" + id).json().path("state").asString(),
            "DONE"::equals);
    assertThat(app.client().get("/api/projects").json().size()).isEqualTo(1);
  }

  /** A restore is one operation: cut off it is done or not, and a person looks before the next. */
  @Test
  void aRestoreCutOffByAStopIsNotDoneAgain() throws Exception {
    app.write(app.live(), model("hull"));
    assertThat(app.project(1).status()).isEqualTo(200);
    app.database()
        .run(
            "insert into job (uuid, kind, key, node, lane, state, person, request, created)"
                + " select gen_random_uuid(), 'restore', 'x', node, 'RESTORE', 'RUNNING', 'Ilse',"
                + " '{}', now() from job limit 1");
    app.stop();
    app.start();
    JsonNode newest = app.client().get("/api/jobs").json().get(0);
    assertThat(newest.path("kind").asString()).isEqualTo("restore");
    assertThat(newest.path("state").asString()).isEqualTo("FAILED");
    assertThat(newest.at("/problem/detail").asString()).contains("stopped meanwhile");
  }

  @Test
  void oneThatWaitsOrRunsCanBeCancelled() throws Exception {
    app.write(app.live(), model("hull"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String versions = "/api/documents/" + app.document() + "/versions";
    await()
        .atMost(Patience.LONG)
        .until(() -> app.client().get(versions).body().contains("CAPTURE"));
    disk.befall(app.keep(), Trouble.HANGS);
    Client.Answer begun = app.client().begin("/api/search", "{}");
    assertThat(begun.status()).isLessThan(300);
    JsonNode job = app.client().get("/api/jobs").json().get(0);
    assertThat(job.path("kind").asString()).isEqualTo("search");
    app.client().delete("/api/jobs/" + job.path("id").asString());
    disk.heal(app.keep());
    await().atMost(Patience.LONG).until(() -> !job(job).path("ended").isMissingNode());
    assertThat(job(job).path("state").asString()).isEqualTo("CANCELLED");
    await()
        .atMost(Patience.LONG)
        .until(() -> app.client().begin("/api/search", "{}").status(), s -> s == 202);
  }

  @Test
  void theMetersCountWhatWasDone() throws Exception {
    app.write(app.live(), model("hull"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String versions = "/api/documents/" + app.document() + "/versions";
    await()
        .atMost(Patience.LONG)
        .until(() -> app.client().get(versions).body().contains("CAPTURE"));
    assertThat(meter("kavrin.backups")).isEqualTo(1);
    assertThat(meter("kavrin.backup.bytes")).isEqualTo(java.nio.file.Files.size(app.live()));
    assertThat(meter("kavrin.jobs")).isEqualTo(1);
    assertThat(new Client(app.client().base()).get("/actuator/metrics").status()).isEqualTo(401);
  }

  private double meter(String name) throws Exception {
    return app.client()
        .get("/actuator/metrics/" + name)
        .json()
        .at("/measurements/0/value")
        .asDouble();
  }
}
