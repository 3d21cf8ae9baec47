package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.disk.RealDisk;
import dev.kavrin.core.health.HealthCheck;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Parts, groups and trial copies through the whole service, on real files. */
class RestoringTest {

  @RegisterExtension static final RunningKavrin app = new RunningKavrin();

  private JsonNode states(String document) throws Exception {
    return app.client().get("/api/documents/" + document + "/versions").json().path("states");
  }

  /** Two states: the older has the handrail, the one of today has not. */
  private String begin() throws Exception {
    app.write(app.live(), model("Frame", "Roof", "Handrail"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String document = app.document();
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(states(document).at("/0/copies").size()).isEqualTo(2));
    app.write(app.live(), model("Frame", "Roof"));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode both = states(document);
              assertThat(both.size()).isEqualTo(2);
              assertThat(both.at("/0/verdict").asString()).isEqualTo("INTACT");
              assertThat(both.at("/1/verdict").asString()).isEqualTo("INTACT");
            });
    return document;
  }

  private List<String> parts(Path file) {
    return new HealthCheck(new RealDisk())
        .inspect(file, "x.glb").inventory().parts().stream().map(p -> p.label()).toList();
  }

  @Test
  void aLostPartIsBroughtIntoTheFileOfTodayAndTakenOutAgain() throws Exception {
    String document = begin();
    byte[] today = Files.readAllBytes(app.live());
    String parts = "/api/documents/" + document + "/part-restores";
    String picks =
        "{\"picks\":[{\"state\":\"%s\",\"parts\":[\"Handrail\"]}]}"
            .formatted(states(document).at("/1/id").asString());
    JsonNode preview = app.client().post(parts + "/preview", picks).json();
    assertThat(preview.path("unequal")).isEmpty();
    assertThat(preview.path("untouched").asInt()).isEqualTo(2);
    assertThat(preview.at("/brought/0/replaced").asBoolean()).isFalse();
    assertThat(Files.readAllBytes(app.live())).isEqualTo(today);
    String version = preview.path("id").asString();
    JsonNode shown = app.client().get(parts + "/" + version + "/comparison").json();
    assertThat(shown.at("/counts/ADDED").asInt()).isEqualTo(1);
    assertThat(shown.at("/counts/SAME").asInt()).isEqualTo(2);

    String apply = "{\"id\":\"" + version + "\",\"mode\":\"REPLACE\"}";
    JsonNode receipt = app.client().post(parts, apply).json();
    assertThat(receipt.at("/receipt/parts/0").asString()).isEqualTo("Handrail, which was gone");
    assertThat(parts(app.live())).containsExactly("Frame", "Roof", "Handrail");
    assertThat(Files.readAllBytes(Path.of(receipt.at("/receipt/aside").asString())))
        .isEqualTo(today);
    assertThat(app.client().post(parts, apply).status()).isEqualTo(404);

    String undo = "/api/restores/" + receipt.path("id").asString() + "/undo";
    assertThat(app.client().post(undo, "").status()).isEqualTo(200);
    assertThat(Files.readAllBytes(app.live())).isEqualTo(today);
  }

  @Test
  void aSaveBetweenLookingAndDoingIsNotOverwritten() throws Exception {
    String document = begin();
    String parts = "/api/documents/" + document + "/part-restores";
    String state = states(document).at("/1/id").asString();
    String picks = "{\"picks\":[{\"state\":\"%s\",\"parts\":[\"%s\"]}]}";
    String version =
        app.client()
            .post(parts + "/preview", picks.formatted(state, "Handrail"))
            .json()
            .path("id")
            .asString();
    app.write(app.live(), model("Frame", "Roof", "Bell"));
    byte[] saved = Files.readAllBytes(app.live());
    Client.Answer late =
        app.client().post(parts, "{\"id\":\"" + version + "\",\"mode\":\"REPLACE\"}");
    assertThat(late.problem()).isEqualTo("changed-meanwhile");
    assertThat(Files.readAllBytes(app.live())).isEqualTo(saved);
    Client.Answer unknown =
        app.client().post(parts + "/preview", picks.formatted(state, "No such part"));
    assertThat(unknown.problem()).isEqualTo("cannot-take");
    assertThat(unknown.json().path("detail").asString()).contains("Nothing was touched");
  }

  @Test
  void aStateIsTakenElsewhereInPieces() throws Exception {
    String document = begin();
    String state = states(document).at("/1/id").asString();
    byte[] then = model("Frame", "Roof", "Handrail");
    HttpResponse<byte[]> half =
        app.client()
            .bytes("/api/documents/" + document + "/versions/" + state + "/file", "bytes=100-");
    assertThat(half.statusCode()).isEqualTo(206);
    assertThat(half.body()).isEqualTo(Arrays.copyOfRange(then, 100, then.length));
    assertThat(half.headers().firstValue("Content-Disposition").orElse(""))
        .contains("carriage-02.glb");
    assertThat(half.headers().firstValue("ETag")).isPresent();
  }

  @Test
  void aTrialCopyHasTheEndingItsContentHasWhereNobodyKnowsItsOwn() throws Exception {
    Path odd = app.work().resolve("bell.glb.kept");
    app.write(odd, model("Clapper"));
    Client.Answer made =
        app.client()
            .post(
                "/api/projects",
                """
                {"name":"Bell","folder":"%s","rule":["*.kept"],"recovery":"%s",
                 "plan":{"interval":"PT1S","quiet":"PT2S","hardLimit":"PT60S","keep":{"newest":5,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}}
                """
                    .formatted(app.work(), app.keep()));
    assertThat(made.status()).isLessThan(300);
    String document = app.document();
    await().atMost(Patience.LONG).until(() -> states(document).size() == 1);
    String state = states(document).at("/0/id").asString();
    JsonNode trial =
        app.client()
            .post("/api/documents/" + document + "/trials", "{\"state\":\"" + state + "\"}")
            .json();
    assertThat(Path.of(trial.path("file").asString()))
        .hasFileName("bell.glb")
        .hasBinaryContent(model("Clapper"));
    assertThat(odd).as("never renamed").hasBinaryContent(model("Clapper"));
  }

  @Test
  void aTrialCopyMayBeReadAndNotWrittenAndTheWordAboutItCounts() throws Exception {
    String document = begin();
    String state = states(document).at("/1/id").asString();
    JsonNode trial =
        app.client()
            .post("/api/documents/" + document + "/trials", "{\"state\":\"" + state + "\"}")
            .json();
    Path file = Path.of(trial.path("file").asString());
    assertThat(file.getFileName()).hasToString("carriage-02.glb");
    assertThat(file).startsWith(app.keep());
    assertThat(Files.readAllBytes(file)).isEqualTo(model("Frame", "Roof", "Handrail"));
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("r--r--r--");
    String trials = "/api/documents/" + document + "/trials";
    assertThat(app.client().get(trials).json().path("copies").asInt()).isEqualTo(1);
    JsonNode ran =
        app.client()
            .post(
                trials + "/command",
                "{\"state\":\"%s\",\"command\":\"wc -c < $KAVRIN_FILE; touch made; exit 3\"}"
                    .formatted(state))
            .json();
    assertThat(ran.path("exit").asInt()).isEqualTo(3);
    assertThat(ran.path("output").asString().strip())
        .isEqualTo(String.valueOf(model("Frame", "Roof", "Handrail").length));
    assertThat(ran.path("made").toString()).isEqualTo("[\"made\"]");
    assertThat(states(document).at("/1/marks").toString()).contains("opened wrong", "exit 3");
    app.client()
        .post(
            "/api/documents/" + document + "/marks",
            "{\"state\":\"%s\",\"mark\":\"carried over\",\"on\":true}".formatted(state));
    assertThat(states(document).at("/1/marks").toString())
        .containsPattern("into the file as saved \\d{4}-\\d\\d-\\d\\d \\d\\d:\\d\\d:\\d\\d");
    Path saved = Files.writeString(file.resolveSibling("notes.txt"), "saved in the wrong place");
    app.client().delete(trials);
    assertThat(file).doesNotExist();
    assertThat(saved).hasContent("saved in the wrong place");
    Files.delete(saved);
    app.client().delete(trials);
    assertThat(file.getParent()).doesNotExist();
    app.client()
        .post(
            "/api/documents/" + document + "/marks",
            "{\"state\":\"" + state + "\",\"mark\":\"opened right\",\"on\":true}");
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(states(document).at("/1/marks").toString())
                    .contains("opened right", "Ilse Quarn"));
  }

  private JsonNode line(String name) throws Exception {
    for (JsonNode project : app.client().get("/api/overview").json().path("projects")) {
      for (JsonNode document : project.path("documents")) {
        if (document.path("name").asString().equals(name)) {
          return document;
        }
      }
    }
    throw new AssertionError("No document " + name);
  }

  private static String wishes(JsonNode table) {
    List<String> wishes = new java.util.ArrayList<>();
    for (JsonNode row : table.path("rows")) {
      if (row.has("state")) {
        wishes.add(
            "{\"document\":\"%s\",\"state\":\"%s\",\"mode\":\"REPLACE\"}"
                .formatted(row.path("document").asString(), row.path("state").asString()));
      }
    }
    return "\"wishes\":[" + String.join(",", wishes) + "]";
  }

  @Test
  void aWholeProjectGoesBackAsOfAMomentAndForthAgain() throws Exception {
    Path station = app.work().resolve("station.glb");
    app.write(station, model("Hall", "Clock"));
    String document = begin();
    String project = trailOf(document).path("project").asString();
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(copies("station.glb")).isEqualTo(1));
    Instant before = Instant.parse(states(document).at("/1/workTo").asString());
    app.write(station, model("Hall"));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(count("station.glb")).isEqualTo(2));
    byte[] carriageNow = Files.readAllBytes(app.live());

    Instant moment = Instant.parse(states(document).at("/0/workTo").asString()).minusNanos(1);
    assertThat(moment).isAfter(before);
    String base = "/api/projects/" + project;
    JsonNode table = app.client().get(base + "/as-of?at=" + moment).json();
    assertThat(table.path("rows").size()).isEqualTo(2);
    String wishes = wishes(table);
    JsonNode preview =
        app.client().post(base + "/group-restores/preview", "{" + wishes + "}").json();
    assertThat(preview.path("items").size()).isEqualTo(2);
    assertThat(preview.path("fits").asBoolean()).isTrue();
    String order = "{\"what\":\"as of then\"," + wishes + ",\"digest\":\"%s\"}";
    assertThat(app.client().post(base + "/group-restores", order.formatted("other")).problem())
        .isEqualTo("changed-meanwhile");
    assertThat(Files.readAllBytes(app.live())).isEqualTo(carriageNow);

    JsonNode done =
        app.client()
            .post(base + "/group-restores", order.formatted(preview.path("digest").asString()))
            .json();
    assertThat(done.path("done").asBoolean()).isTrue();
    assertThat(done.path("receipts").size()).isEqualTo(2);
    assertThat(parts(app.live())).containsExactly("Frame", "Roof", "Handrail");
    assertThat(parts(station)).containsExactly("Hall", "Clock");

    String id = done.path("id").asString();
    JsonNode undone = app.client().post("/api/group-restores/" + id + "/undo", "").json();
    assertThat(undone.path("undoes").asString()).isEqualTo(id);
    assertThat(Files.readAllBytes(app.live())).isEqualTo(carriageNow);
    assertThat(parts(station)).containsExactly("Hall");
    assertThat(app.client().get(base + "/group-restores").json().size()).isEqualTo(2);
  }

  private JsonNode trailOf(String document) throws Exception {
    return app.client().get("/api/documents/" + document + "/versions").json();
  }

  private int copies(String name) throws Exception {
    return line(name).path("copies").asInt();
  }

  private int count(String name) throws Exception {
    return line(name).path("states").asInt();
  }

  @Test
  void whatWasNeverSavedIsListedAndSavedWithTheOthersOfTheCrash() throws Exception {
    String document = begin();
    Path drafts = Files.createDirectories(app.work().resolve(".drafts"));
    byte[] sketch = model("Sketch", "Trial");
    app.write(drafts.resolve("sketch~1.tmp"), sketch);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(line("sketch.glb").at("/live/everSaved").asBoolean(true)).isFalse());
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(line("sketch.glb").path("states").asInt()).isPositive());
    assertThat(line("carriage-02.glb").at("/live/everSaved").asBoolean()).isTrue();
    String project = trailOf(document).path("project").asString();
    JsonNode incident = app.client().post("/api/projects/" + project + "/incidents", "").json();
    JsonNode table =
        app.client()
            .get("/api/projects/" + project + "/as-of?incident=" + incident.path("id").asString())
            .json();
    assertThat(table.path("rows").size()).isEqualTo(2);
    String wishes = wishes(table);
    String base = "/api/projects/" + project + "/group-restores";
    JsonNode preview = app.client().post(base + "/preview", "{" + wishes + "}").json();
    assertThat(preview.path("alike").toString()).contains("carriage-02.glb");
    JsonNode done =
        app.client()
            .post(
                base,
                "{\"what\":\"after the crash\","
                    + wishes
                    + ",\"digest\":\"%s\"}".formatted(preview.path("digest").asString()))
            .json();
    assertThat(done.path("done").asBoolean()).isTrue();
    assertThat(Files.readAllBytes(app.work().resolve("sketch.glb"))).isEqualTo(sketch);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(line("sketch.glb").at("/live/everSaved").asBoolean()).isTrue());
  }

  @Test
  void aCrashOfACopyIsRecordedAndTheOverviewSaysWhenThePlanWasProven() throws Exception {
    String document = begin();
    byte[] today = Files.readAllBytes(app.live());
    String base = "/api/documents/" + document + "/recovery-tests";
    assertThat(proven().path("asks").asBoolean()).isTrue();
    for (String way : List.of("IDLE", "MID_SAVE", "MID_AUTOSAVE", "DRIVE_GONE")) {
      Client.Answer answer = app.client().post(base, "{\"way\":\"" + way + "\"}");
      JsonNode proof = answer.json().path("proof");
      assertThat(proof.path("held").asBoolean()).as(answer.body()).isTrue();
      assertThat(proof.path("actual")).isEqualTo(proof.path("predicted"));
    }
    JsonNode nightly = app.client().post(base + "/unattended", "").json().path("proof");
    assertThat(nightly.path("held").asBoolean()).as(nightly.toString()).isTrue();
    assertThat(app.client().get(base).json().path("done").size()).isEqualTo(5);
    assertThat(proven().path("asks").asBoolean()).isFalse();
    assertThat(proven().path("at").asString()).isNotEmpty();
    assertThat(Files.readAllBytes(app.live())).isEqualTo(today);

    JsonNode begun = app.client().post(base + "/guided", "").json();
    assertThat(begun.has("gone")).isFalse();
    assertThat(app.client().post(base + "/guided/end", "").problem()).isEqualTo("not-gone");
    String project = trailOf(document).path("project").asString();
    app.client().post("/api/projects/" + project + "/incidents", "");
    JsonNode ended = app.client().post(base + "/guided/end", "").json().path("proof");
    assertThat(ended.path("by").asString()).isEqualTo("own program");
    assertThat(ended.path("verdict").asString()).isEqualTo("INTACT");
  }

  private JsonNode proven() throws Exception {
    for (JsonNode project : app.client().get("/api/overview").json().path("projects")) {
      if (project.path("folder").asString().equals(app.work().toString())) {
        return project.path("proven");
      }
    }
    throw new AssertionError("No project");
  }
}
