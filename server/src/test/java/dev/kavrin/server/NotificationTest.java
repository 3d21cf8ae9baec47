package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.GreenMailUtil;
import com.icegreen.greenmail.util.ServerSetup;
import com.sun.net.httpserver.HttpServer;
import jakarta.mail.internet.MimeMessage;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Messages arrive at a real mail server and a real webhook, both in this test. */
@Order(1)
class NotificationTest {
  private final TroubledDisk disk = new TroubledDisk();

  @RegisterExtension final RunningKavrin app = RunningKavrin.over(disk);

  private final GreenMail mail =
      new GreenMail(new ServerSetup(0, "127.0.0.1", ServerSetup.PROTOCOL_SMTP));
  private final List<JsonNode> posted = new CopyOnWriteArrayList<>();
  private HttpServer hook;
  private int answer = 204;

  @BeforeEach
  void listen() throws Exception {
    mail.start();
    mail.setUser("ilse@tarnwick.test", "kavrin", "secret");
    hook = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    hook.createContext(
        "/hook",
        exchange -> {
          posted.add(JsonMapper.shared().readTree(exchange.getRequestBody().readAllBytes()));
          exchange.sendResponseHeaders(answer, -1);
          exchange.close();
        });
    hook.start();
  }

  @AfterEach
  void close() {
    mail.stop();
    hook.stop(0);
  }

  private JsonNode tellBy(int port, String silent) throws Exception {
    Client.Answer set =
        app.client()
            .put(
                "/api/notifications",
                "0",
                """
                {"page":true,"browser":false,"desktop":false,"silent":[%s],
                 "mail":{"host":"127.0.0.1","port":%d,"from":"kavrin@tarnwick.test","user":"kavrin","password":"secret",
                   "to":"ilse@tarnwick.test","tls":false},
                 "webhook":{"url":"http://127.0.0.1:%d/hook"}}
                """
                    .formatted(silent, port, hook.getAddress().getPort()));
    assertThat(set.status()).isEqualTo(200);
    return set.json();
  }

  private JsonNode tried(String channel) throws Exception {
    return app.client().post("/api/notifications/test", "{\"channel\":\"" + channel + "\"}").json();
  }

  private void untilPosted(String title) {
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(posted).anyMatch(m -> m.path("title").asString().equals(title)));
  }

  @Test
  void aTestArrivesOrSaysWhyNotAndSecretsStayInside() throws Exception {
    assertThat(app.client().get("/api/notifications").json().path("needsPage").asBoolean())
        .isTrue();
    JsonNode set = tellBy(mail.getSmtp().getPort(), "");
    assertThat(set.path("needsPage").asBoolean()).isFalse();
    assertThat(set.toString()).doesNotContain("secret").contains("\"hasPassword\":true");
    assertThat(tried("MAIL").path("problem").asString("")).isEmpty();
    assertThat(mail.getReceivedMessages()).hasSize(1);
    assertThat(mail.getReceivedMessages()[0].getSubject()).isEqualTo("Kavrin can reach you");
    assertThat(GreenMailUtil.getBody(mail.getReceivedMessages()[0])).contains("test you asked for");
    assertThat(tried("WEBHOOK").path("problem").asString("")).isEmpty();
    untilPosted("Kavrin can reach you");
    answer = 500;
    assertThat(tried("WEBHOOK").path("problem").asString()).contains("answered 500");
    mail.stop();
    assertThat(tried("MAIL").path("problem").asString()).contains("127.0.0.1");
    assertThat(
            app.client()
                .put(
                    "/api/notifications",
                    "0",
                    "{\"page\":true,\"webhook\":{\"url\":\"file:///etc\"}}")
                .status())
        .isBetween(400, 422);
  }

  @Test
  void aCrashAndUnsavedWorkAreToldByEveryWayAndCanBePutOffOrSilenced() throws Exception {
    tellBy(mail.getSmtp().getPort(), "\"FOLDER_AWAY\"");
    app.write(app.live(), RunningKavrin.model("Frame"));
    JsonNode project = app.project(600).json();
    String id = project.path("id").asString();
    app.client().post("/api/projects/" + id + "/incidents", "{}");
    untilPosted("Carriage crashed");
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(mail.getReceivedMessages()).hasSize(1));
    JsonNode present = app.client().get("/api/projects/" + id).json();
    String plan =
        present.path("plan").toString().replace("\"reminder\":\"PT0S\"", "\"reminder\":\"PT6S\"");
    String program =
        present.path("program").toString().replace("no-process-has-these-words", "java");
    Client.Answer changed =
        app.client()
            .put(
                "/api/projects/" + id,
                present.path("version").asString(),
                "{\"plan\":" + plan + ",\"program\":" + program + "}");
    assertThat(changed.status()).isEqualTo(200);
    Files.writeString(app.live().resolveSibling(".carriage-02.open"), "open");
    untilPosted("Save carriage-02.glb now?");
    app.client().post("/api/documents/" + app.document() + "/reminder/put-off", "{\"minutes\":20}");
    JsonNode messages = app.client().get("/api/messages").json();
    assertThat(messages.get(0).path("kind").asString()).isEqualTo("REMINDER");
    assertThat(messages.get(0).path("view").asString()).isEqualTo("/versions/" + app.document());
  }

  @Test
  void aDriveThatFillsUpAndWorkThatWasNeverSavedAreTold() throws Exception {
    tellBy(mail.getSmtp().getPort(), "");
    app.write(app.live(), RunningKavrin.model("Frame"));
    app.write(app.work().resolve(".drafts/bell~1.tmp"), RunningKavrin.model("Bell"));
    disk.befall(app.keep(), TroubledDisk.Trouble.NEARLY_FULL);
    disk.befall(app.work(), TroubledDisk.Trouble.NEARLY_FULL);
    JsonNode project = app.project(600).json();
    String plan =
        project.path("plan").toString().replace("\"reminder\":\"PT0S\"", "\"reminder\":\"PT6S\"");
    String program =
        project
            .path("program")
            .toString()
            .replace("no-process-has-these-words", "java")
            .replace("\"sessionSign\":\".{stem}.open\",", "");
    assertThat(
            app.client()
                .put(
                    "/api/projects/" + project.path("id").asString(),
                    project.path("version").asString(),
                    "{\"plan\":" + plan + ",\"program\":" + program + "}")
                .status())
        .isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(posted)
                    .anyMatch(
                        m ->
                            m.path("kind").asString().equals("DRIVE_FILLING")
                                && m.path("words").asString().contains("700.0 MB are free.")));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(posted)
                    .filteredOn(m -> m.path("kind").asString().equals("REMINDER"))
                    .map(m -> m.path("title").asString() + " " + m.path("words").asString())
                    .anyMatch(told -> told.contains("Save bell.glb now? It was never saved;")));
  }

  @Test
  void aSaveThatTookMuchAwayAndSeveralUnsavedDocumentsAreToldInOneMessageEach() throws Exception {
    tellBy(mail.getSmtp().getPort(), "");
    app.write(app.live(), RunningKavrin.model("Frame", "Drum", "Bell", "Cover", "Shaft"));
    app.write(app.work().resolve("winch.glb"), RunningKavrin.model("Rope"));
    JsonNode project = app.project(1).json();
    String one = app.document();
    await()
        .atMost(Patience.LONG)
        .until(
            () ->
                app.client()
                    .get("/api/documents/" + one + "/versions")
                    .json()
                    .toString()
                    .contains("\"verdict\":\"INTACT\""));
    app.write(app.live(), RunningKavrin.model("Frame"));
    untilPosted("A save of carriage-02.glb took much away");
    JsonNode asked = app.client().get("/api/losses").json();
    assertThat(asked).hasSize(1);
    assertThat(asked.get(0).path("losses").get(0).asString()).startsWith("4 of 5 parts went: ");
    assertThat(posted)
        .filteredOn(m -> m.path("kind").asString().equals("SUDDEN_LOSS"))
        .singleElement()
        .satisfies(
            m ->
                assertThat(m.path("words").asString())
                    .startsWith("4 of 5 parts went: ")
                    .endsWith("The version before it is kept."));

    JsonNode present = app.client().get("/api/projects/" + project.path("id").asString()).json();
    String plan =
        present.path("plan").toString().replace("\"reminder\":\"PT0S\"", "\"reminder\":\"PT12S\"");
    String program =
        present.path("program").toString().replace("no-process-has-these-words", "java");
    app.write(app.live(), RunningKavrin.model("Frame", "Mast"));
    app.write(app.work().resolve("winch.glb"), RunningKavrin.model("Rope", "Drum"));
    for (String open : List.of(".carriage-02.open", ".winch.open")) {
      Files.writeString(app.live().resolveSibling(open), "open");
    }
    assertThat(
            app.client()
                .put(
                    "/api/projects/" + project.path("id").asString(),
                    present.path("version").asString(),
                    "{\"plan\":" + plan + ",\"program\":" + program + "}")
                .status())
        .isEqualTo(200);
    untilPosted("Save 2 documents now?");
    assertThat(posted)
        .filteredOn(m -> m.path("title").asString().equals("Save 2 documents now?"))
        .allMatch(
            m ->
                m.path("words").asString().contains("Save carriage-02.glb now? It was last")
                    && m.path("words").asString().contains("Save winch.glb now? It was last"));
  }

  private String crashedProject(String name) throws Exception {
    app.write(app.in(name).resolve(name + ".glb"), RunningKavrin.model("Frame"));
    return app.project(app.in(name), app.in(name + "-keep"), 600).json().path("id").asString();
  }

  private void crash(String project) throws Exception {
    assertThat(app.client().post("/api/projects/" + project + "/incidents", "{}").status())
        .isEqualTo(200);
  }

  private static List<String> titles(Client who) throws Exception {
    List<String> titles = new ArrayList<>();
    who.get("/api/messages").json().forEach(m -> titles.add(m.path("title").asString()));
    return titles;
  }

  private List<String> mailedTo(String address) throws Exception {
    List<String> subjects = new ArrayList<>();
    for (MimeMessage letter : mail.getReceivedMessages()) {
      if (letter.getAllRecipients()[0].toString().equals(address)) {
        subjects.add(letter.getSubject());
      }
    }
    return subjects;
  }

  @Test
  void eachPersonIsToldOfWhatTheyMaySeeByTheirOwnWays() throws Exception {
    tellBy(mail.getSmtp().getPort(), "\"FOLDER_AWAY\"");
    String theirs = crashedProject("winch");
    String other = crashedProject("tower");
    Client guest = Guests.invited(app.client(), "Maren Holt", theirs, "LOOK");
    Client quiet = Guests.invited(app.client(), "Tarek Osei", theirs, "RESTORE");
    String wants = "{\"page\":true,\"browser\":false,\"mail\":\"%s\",\"silent\":[%s]}";
    assertThat(
            guest
                .put("/api/session/notifications", "*", wants.formatted("maren@tarnwick.test", ""))
                .status())
        .isEqualTo(200);
    quiet.put(
        "/api/session/notifications", "*", wants.formatted("tarek@tarnwick.test", "\"CRASH\""));
    assertThat(
            guest.put("/api/session/notifications", "*", wants.formatted("nowhere", "")).status())
        .isBetween(400, 422);

    crash(other);
    crash(theirs);
    untilPosted("winch crashed");
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(mailedTo("maren@tarnwick.test")).containsExactly("winch crashed"));
    assertThat(titles(guest)).containsExactly("winch crashed");
    assertThat(titles(quiet)).isEmpty();
    assertThat(titles(app.client())).contains("winch crashed", "tower crashed");
    assertThat(mailedTo("tarek@tarnwick.test")).isEmpty();

    JsonNode tried = guest.post("/api/session/notifications/test", "{\"channel\":\"MAIL\"}").json();
    assertThat(tried.has("problem")).isFalse();
    assertThat(mailedTo("maren@tarnwick.test")).contains("Kavrin can reach you");
    guest.post("/api/session/notifications/test", "{\"channel\":\"PAGE\"}");
    assertThat(titles(guest)).contains("Kavrin can reach you");
    assertThat(titles(app.client())).doesNotContain("Kavrin can reach you");
    assertThat(guest.post("/api/session/notifications/test", "{\"channel\":\"DESKTOP\"}").problem())
        .isEqualTo("not-own");

    app.client().delete("/api/people/Maren%20Holt");
    app.write(app.in("winch").resolve("winch.glb"), RunningKavrin.model("Frame", "Drum"));
    crash(theirs);
    await()
        .atMost(Patience.LONG)
        .until(() -> titles(app.client()).stream().filter("winch crashed"::equals).count() == 2);
    untilMailed("ilse@tarnwick.test", "winch crashed", 2);
    assertThat(mailedTo("maren@tarnwick.test").stream().filter("winch crashed"::equals).count())
        .as("who is shown out is told nothing")
        .isEqualTo(1);
  }

  private void untilMailed(String address, String title, long times) {
    await()
        .atMost(Patience.LONG)
        .until(() -> mailedTo(address).stream().filter(title::equals).count() == times);
  }
}
