package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;

import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.extension.RegisterExtension;

/** Everything that comes from outside and should not get in. */
class BadInputTest {
  @RegisterExtension static final RunningKavrin app = new RunningKavrin();

  private Client.Answer look(String folder) throws Exception {
    return app.client()
        .post("/api/projects/look", "{\"folder\":\"" + folder + "\",\"rule\":[\"*.glb\"]}");
  }

  @Test
  void pathsOutsideTheAllowedRootsAreRefused() throws Exception {
    Path link = app.work().resolve("out");
    Files.createSymbolicLink(link, Path.of("/etc"));
    for (String path :
        new String[] {
          "/etc", "/", app.work() + "/../../data", app.work() + "/out", "/proc/self", link + "/ssl"
        }) {
      Client.Answer answer = look(path);
      assertThat(answer.status()).as(path).isEqualTo(403);
      assertThat(answer.json().at("/detail").asString()).contains("Nothing was touched");
    }
    assertThat(look("carriage").problem()).isEqualTo("not-absolute");
    assertThat(look(app.work() + "/absent").problem()).isEqualTo("not-a-folder");
  }

  @Test
  void unfitRecoveryFoldersAreToldAndNothingIsMade() throws Exception {
    app.write(app.live(), model("Frame"));
    String inside = app.work() + "/copies";
    Client.Answer check =
        app.client()
            .post(
                "/api/folders/check",
                "{\"path\":\""
                    + inside
                    + "\",\"role\":\"RECOVERY\",\"work\":\""
                    + app.work()
                    + "\"}");
    assertThat(check.json().at("/faults/0").asString()).contains("inside the work folder");
    Client.Answer made =
        app.client()
            .post(
                "/api/projects",
                """
            {"name":"Carriage","folder":"%s","rule":["*.glb"],"recovery":"%s",
             "plan":{"interval":"PT1M","quiet":"PT2S","hardLimit":"PT60S","keep":{"newest":5,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
            """
                    .formatted(app.work(), inside));
    assertThat(made.problem()).isEqualTo("unfit-folder");
    assertThat(Path.of(inside)).doesNotExist();
    assertThat(app.work().resolve(".kavrin")).doesNotExist();
  }

  @Test
  void plansThatCannotBeAreRefusedWithTheReason() throws Exception {
    app.write(app.live(), model("Frame"));
    Client.Answer answer = app.project(60 * 60 * 24 * 31);
    assertThat(answer.status()).isIn(400, 422);
    assertThat(app.keep()).doesNotExist();
  }

  @Test
  void aFileThatVanishedIsToldAsSuch() throws Exception {
    app.write(app.live(), model("Frame"));
    app.project(0);
    String document = app.document();
    Files.delete(app.live());
    Client.Answer answer = app.client().post("/api/documents/" + document + "/copies", "{}");
    assertThat(answer.status()).isEqualTo(404);
    assertThat(answer.problem()).isEqualTo("file-gone");
    assertThat(
            app.client()
                .get("/api/documents/00000000-0000-7000-8000-000000000000/versions")
                .status())
        .isEqualTo(404);
    assertThat(app.client().get("/api/contents/not-an-id/preview").status()).isEqualTo(422);
  }

  @Test
  void aDriveThatIsAwayGetsNothing() throws Exception {
    app.write(app.live(), model("Frame"));
    app.project(0);
    String document = app.document();
    Path marker = app.keep().resolve(".kavrin/place.json");
    byte[] bytes = Files.readAllBytes(marker);
    Files.delete(marker);
    Client.Answer answer = app.client().post("/api/documents/" + document + "/copies", "{}");
    assertThat(answer.status()).isEqualTo(503);
    assertThat(answer.json().at("/detail").asString())
        .contains("away")
        .contains("Nothing was written");
    assertThat(app.keep().resolve("carriage")).doesNotExist();
    Files.write(marker, bytes);
    assertThat(app.client().post("/api/documents/" + document + "/copies", "{}").status())
        .isEqualTo(200);
  }

  /** A small file system of its own needs the right to mount one. */
  @Test
  @EnabledIfSystemProperty(named = "user.name", matches = "root")
  void tooLittleRoomIsToldBeforeAnythingIsWritten() throws Exception {
    app.write(app.live(), new byte[20_000_000]);
    Files.createDirectories(app.keep());
    run("mount", "-t", "tmpfs", "-o", "size=40m", "tmpfs", app.keep().toString());
    try {
      app.project(0);
      Client.Answer answer =
          app.client().post("/api/documents/" + app.document() + "/copies", "{}");
      assertThat(answer.status()).isEqualTo(507);
      assertThat(answer.json().at("/detail").asString())
          .contains(app.keep().toString())
          .contains("Nothing was");
      try (Stream<Path> all = Files.walk(app.keep().resolve("carriage"))) {
        assertThat(all.filter(Files::isRegularFile)).isEmpty();
      }
      assertThat(Files.size(app.live())).isEqualTo(20_000_000);
    } finally {
      run("umount", "-l", app.keep().toString());
    }
  }

  private static void run(String... command) throws Exception {
    assertThat(new ProcessBuilder(command).inheritIO().start().waitFor()).isZero();
  }

  @Test
  void withoutASessionNothingIsTold() throws Exception {
    Client stranger = new Client(app.client().base());
    for (String path :
        new String[] {"/api/overview", "/api/events", "/api/openapi", "/api/session"}) {
      assertThat(stranger.get(path).status()).as(path).isEqualTo(401);
    }
    assertThat(stranger.get("/api/enter?token=guessed").raw().headers().firstValue("Location"))
        .contains("/?link=used");
  }

  @Test
  void aLinkOpensTheDoorOnce() throws Exception {
    String link = app.kavrin().newLink();
    assertThat(Client.entered(link).get("/api/session").json().at("/name").asString())
        .isEqualTo("Ilse Quarn");
    assertThat(Client.entered(link).get("/api/session").status()).isEqualTo(401);
  }

  @Test
  void readingLeavesTheTokenOfAnotherTabAsItIs() throws Exception {
    String token = app.client().token();
    app.client().get("/api/overview");
    app.client().get("/api/session");
    assertThat(app.client().token()).isEqualTo(token);
  }

  @Test
  void otherPagesAndOtherHostsAreRefused() throws Exception {
    String body = "{\"folder\":\"" + app.work() + "\",\"rule\":[\"*.glb\"]}";
    Client.Answer foreign =
        app.client()
            .postWithout(
                "/api/projects/look",
                body,
                "X-XSRF-TOKEN",
                app.client().token(),
                "Origin",
                "http://elsewhere.example");
    assertThat(foreign.problem()).isEqualTo("foreign-page");
    assertThat(app.client().postWithout("/api/projects/look", body, "Accept", "*/*").status())
        .isEqualTo(403);
    try (Socket socket = new Socket("127.0.0.1", app.client().base().getPort())) {
      socket
          .getOutputStream()
          .write(
              "GET /api/overview HTTP/1.1\r\nHost: elsewhere.example\r\nConnection: close\r\n\r\n"
                  .getBytes(StandardCharsets.US_ASCII));
      String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(answer).startsWith("HTTP/1.1 421").contains("wrong-host");
    }
  }

  @Test
  void aJournalThatDoesNotFitStopsDropsUntilAPersonHasLooked() throws Exception {
    app.write(app.live(), model("Frame"));
    app.project(0);
    String document = app.document();
    app.client().post("/api/documents/" + document + "/copies", "{}");
    Path journal = app.keep().resolve(".kavrin/journal.jsonl");
    String text = Files.readString(journal);
    app.stop();
    Files.writeString(journal, text.substring(0, text.indexOf('\n') + 1));
    app.start();
    org.awaitility.Awaitility.await()
        .untilAsserted(
            () ->
                assertThat(
                        app.client()
                            .get("/api/overview")
                            .json()
                            .at("/disagreements/0")
                            .asString(""))
                    .contains("shorter"));
    Files.writeString(journal, text);
    assertThat(app.client().post("/api/journals/accept", "").status()).isEqualTo(204);
    assertThat(app.client().get("/api/overview").json().at("/disagreements").size()).isZero();
  }

  @Test
  void thePublishedApiIsWhatTheApplicationServes() throws Exception {
    Path published = Path.of("..", "docs", "openapi.json");
    String served = app.client().get("/api/openapi").body();
    assertThat(tools.jackson.databind.json.JsonMapper.shared().readTree(served))
        .as("docs/openapi.json is stale: fetch it anew from a running Kavrin")
        .isEqualTo(
            tools.jackson.databind.json.JsonMapper.shared().readTree(Files.readString(published)));
  }
}
