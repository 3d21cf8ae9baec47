package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** From a plan to a restored file over HTTP, with real files and a real database. */
@Order(1)
class StoryTest {
  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private JsonNode trail() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/versions").json();
  }

  private JsonNode desk() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/recovery").json();
  }

  @Test
  void fromAPlanToARestoredFile() throws Exception {
    app.write(app.live(), model("Frame", "Roof"));
    assertThat(app.project(3).status()).isEqualTo(200);

    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(trail().at("/states/0/copies").size()).isEqualTo(2));
    assertThat(trail().at("/exposure/quiet").asBoolean()).isTrue();

    byte[] autosaved = model("Frame", "Roof", "Brake shoe");
    app.write(app.work().resolve(".drafts/carriage-02~1.tmp"), autosaved);
    byte[] saving = model("Frame", "Roof", "Brake shoe", "Sand box");
    app.write(app.live(), Arrays.copyOf(saving, saving.length * 61 / 100));
    app.write(app.work().resolve(".carriage-02.open"), new byte[] {1});

    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode desk = desk();
              assertThat(desk.at("/incident/kind").asString("")).isEqualTo("crash");
              assertThat(desk.at("/candidates/0/kind").asString()).isEqualTo("AUTOSAVE");
              assertThat(desk.at("/candidates/0/words").asString())
                  .contains("the same in 1 other copy");
              assertThat(desk.at("/candidates/2/words").asString()).contains("Cut short at 6");
            });

    String document = app.document();
    String best = desk().at("/recommended").asString();
    JsonNode comparison = app.client().compared(document, desk().at("/against").asString(), best);
    assertThat(comparison.at("/sentence").asString()).isEqualTo("B has 1 new part, 2 the same.");
    assertThat(
            app.client()
                .get("/api/contents/" + comparison.at("/contentB").asString() + "/preview")
                .status())
        .isEqualTo(200);

    byte[] damaged = Files.readAllBytes(app.live());
    String request = "{\"state\":\"" + best + "\",\"mode\":\"REPLACE\"";
    JsonNode preview =
        app.client().post("/api/documents/" + document + "/restores/preview", request + "}").json();
    Client.Answer done =
        app.client()
            .post(
                "/api/documents/" + document + "/restores",
                request + ",\"digest\":\"" + preview.at("/digest").asString() + "\"}");

    assertThat(done.status()).as(done.body()).isEqualTo(200);
    assertThat(Files.readAllBytes(app.live())).isEqualTo(autosaved);
    assertThat(done.json().at("/receipt/verdict").asString()).isEqualTo("INTACT");
    assertThat(Files.readAllBytes(Path.of(done.json().at("/receipt/aside").asString())))
        .isEqualTo(damaged);

    assertThat(
            app.client()
                .post("/api/restores/" + done.json().at("/id").asString() + "/undo", "")
                .status())
        .isEqualTo(200);
    assertThat(Files.readAllBytes(app.live())).isEqualTo(damaged);
    assertThat(app.client().get("/api/documents/" + document + "/restores").json().size())
        .isEqualTo(2);
  }

  @Test
  void twoTabsAtOnceNeverRestoreTwice() throws Exception {
    app.write(app.live(), model("Frame"));
    app.project(0);
    String document = app.document();
    String copied =
        app.client()
            .post("/api/documents/" + document + "/copies", "{\"note\":\"before the bake\"}")
            .json()
            .at("/state")
            .asString();
    app.write(app.live(), model("Frame", "Roof"));
    String request = "{\"state\":\"" + copied + "\",\"mode\":\"REPLACE\"";
    String digest =
        app.client()
            .post("/api/documents/" + document + "/restores/preview", request + "}")
            .json()
            .at("/digest")
            .asString();
    String apply = request + ",\"digest\":\"" + digest + "\"}";

    assertThat(app.client().post("/api/documents/" + document + "/restores", apply).status())
        .isEqualTo(200);
    Client.Answer second = app.client().post("/api/documents/" + document + "/restores", apply);
    assertThat(second.status()).isEqualTo(409);
    assertThat(second.json().at("/detail").asString()).contains("Nothing was touched");
    assertThat(Files.readAllBytes(app.live())).isEqualTo(model("Frame"));
  }

  @Test
  void aPlanChangedInAnotherTabIsNotOverwritten() throws Exception {
    app.write(app.live(), model("Frame"));
    JsonNode project = app.project(60).json();
    String path = "/api/projects/" + project.at("/id").asString();
    String body =
        "{\"plan\":"
            + project.at("/plan").toString().replace("\"newest\":5", "\"newest\":9")
            + ",\"program\":"
            + project.at("/program")
            + "}";
    String version = project.at("/version").asString();

    assertThat(app.client().put(path, version, body).status()).isEqualTo(200);
    Client.Answer late =
        app.client().put(path, version, body.replace("\"newest\":9", "\"newest\":1"));
    assertThat(late.status()).isEqualTo(412);
    assertThat(app.client().get(path).json().at("/plan/keep/newest").asInt()).isEqualTo(9);
  }

  @Test
  void aDocumentMayHaveAPlanOfItsOwnUntilItFollowsTheProjectsAgain() throws Exception {
    app.write(app.live(), model("Frame"));
    JsonNode project = app.project(3600).json();
    String at = "/api/projects/" + project.at("/id").asString();
    String path = "/api/documents/" + app.document() + "/plan";
    String own = project.at("/plan").toString().replace("\"newest\":5", "\"newest\":9");
    String version = project.at("/version").asString();
    assertThat(app.client().put(path, version, "{\"plan\":" + own + "}").status()).isEqualTo(200);
    assertThat(app.client().put(path, version, "{}").problem()).isEqualTo("changed-meanwhile");
    JsonNode changed = app.client().get(at).json();
    assertThat(changed.at("/plan/keep/newest").asInt()).isEqualTo(5);
    assertThat(changed.at("/exceptions/" + app.document() + "/keep/newest").asInt()).isEqualTo(9);
    app.stop();
    app.start();
    changed = app.client().get(at).json();
    assertThat(changed.at("/exceptions").size()).isEqualTo(1);
    String now = changed.at("/version").asString();
    assertThat(app.client().put(path, now, "{}").json().at("/exceptions").size()).isZero();
  }

  @Test
  void withTheDatabaseWipedEverythingCapturedIsBackFromTheJournals() throws Exception {
    app.write(app.live(), model("Frame"));
    app.project(0);
    String document = app.document();
    for (String part : new String[] {"Roof", "Door", "Bench"}) {
      app.write(app.live(), model("Frame", part));
      app.client()
          .post("/api/documents/" + document + "/copies", "{\"note\":\"with " + part + "\"}");
    }
    JsonNode before = app.client().post("/api/documents/" + document + "/look", "").json();
    app.stop();
    app.database().wipe();
    app.start();

    await()
        .atMost(Patience.LONG)
        .ignoreExceptions()
        .untilAsserted(
            () -> {
              JsonNode after = trail();
              assertThat(after.at("/document").asString()).isEqualTo(document);
              assertThat(after.at("/states").size()).isEqualTo(before.at("/states").size());
              assertThat(after.at("/states/0/copies/0/note").asString("")).isEqualTo("with Bench");
              assertThat(after.at("/states/0/id")).isEqualTo(before.at("/states/0/id"));
            });
  }

  @Test
  void whileTheDatabaseIsAwayCopiesGoOnAndAreRecordedLater() throws Exception {
    app.write(app.live(), model("Frame"));
    app.project(2);
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(copies()).isEqualTo(1));
    app.database().goAway();
    Client.Answer answer = app.client().get("/api/overview");
    assertThat(answer.status()).isEqualTo(503);
    assertThat(answer.json().at("/detail").asString()).contains("Backups go on being made");
    app.write(app.live(), model("Frame", "Roof"));
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(copies()).isEqualTo(2));
    app.database().comeBack();
    await()
        .atMost(Patience.LONG)
        .ignoreExceptions()
        .untilAsserted(() -> assertThat(trail().at("/states").size()).isEqualTo(2));
  }

  private long copies() throws Exception {
    if (Files.notExists(app.keep().resolve("carriage"))) {
      return 0;
    }
    try (var all = Files.list(app.keep().resolve("carriage"))) {
      return all.filter(p -> p.toString().endsWith(".glb")).count();
    }
  }

  @Test
  void aDatabaseThatIsDownAtStartIsWaitedForWhileCopiesGoOn() throws Exception {
    app.write(app.live(), model("Frame"));
    app.project(2);
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(copies()).isEqualTo(1));
    int port = app.kavrin().port();
    app.stop();
    app.database().goAway();
    Thread starting =
        new Thread(
            () -> {
              try (Kavrin late = Kavrin.start(app.settings(port))) {
                assertThat(late.port()).isEqualTo(port);
              } catch (Exception failed) {
                throw new IllegalStateException(failed);
              }
            });
    starting.start();
    Client outside = new Client(app.client().base());
    await()
        .atMost(Patience.LONG)
        .ignoreExceptions()
        .untilAsserted(
            () -> {
              Client.Answer page = outside.get("/");
              assertThat(page.status()).isEqualTo(503);
              assertThat(page.body()).contains("Backups go on being made");
            });
    app.write(app.live(), model("Frame", "Roof"));
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(copies()).isEqualTo(2));
    app.database().comeBack();
    starting.join(60_000);
    assertThat(starting.isAlive()).isFalse();
  }
}
