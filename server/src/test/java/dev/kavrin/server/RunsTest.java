package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.InstanceOfAssertFactories.PATH;
import static org.awaitility.Awaitility.await;

import io.jhdf.HdfFile;
import io.jhdf.WritableHdfFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Runs, trials, hours and layouts through the whole service. */
class RunsTest {
  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private static final String RULE =
      """
      {"members":[{"role":"SETUP","folder":"","pattern":"{stem}.setup.json"},
       {"role":"RESTART","folder":"%s","pattern":"{stem}-{step}.restart.h5"}]}""";

  private String project;

  private JsonNode project() throws Exception {
    return app.client().get("/api/projects/" + project).json();
  }

  private void begin(int interval) throws Exception {
    app.write(app.live(), RunningKavrin.model("Frame"));
    Client.Answer made = app.project(interval);
    assertThat(made.status()).isEqualTo(200);
    project = made.json().at("/id").asString();
  }

  private Client.Answer put(String path, String body) throws Exception {
    return app.client().put(path, project().at("/version").asString(), body);
  }

  private void step(long step) throws Exception {
    Path path = app.work().resolve("restart/disc-%04d.restart.h5".formatted(step));
    Files.createDirectories(path.getParent());
    try (WritableHdfFile file = HdfFile.write(path)) {
      file.putAttribute("step", step);
      file.putDataset("temperature", new double[] {step, 2 * step});
    }
  }

  private JsonNode trailOf(String name) throws Exception {
    for (JsonNode line : app.client().get("/api/overview").json().path("projects")) {
      for (JsonNode document : line.path("documents")) {
        if (document.path("name").asString().equals(name)) {
          return app.client()
              .get("/api/documents/" + document.path("id").asString() + "/versions")
              .json();
        }
      }
    }
    throw new IllegalStateException("No document " + name);
  }

  private static List<Long> steps(JsonNode trail) {
    return StreamSupport.stream(trail.path("states").spliterator(), false)
        .filter(s -> s.has("step"))
        .map(s -> s.at("/step/step").asLong())
        .sorted()
        .toList();
  }

  private void untilSteps(Long... expected) {
    await()
        .atMost(Patience.LONG)
        .ignoreExceptions()
        .untilAsserted(
            () -> assertThat(steps(trailOf("disc.setup.json"))).containsExactly(expected));
  }

  @Test
  void stepsAreKnownAgainAfterTheDatabaseWasLost() throws Exception {
    begin(0);
    app.write(
        app.work().resolve("disc.setup.json"), "{\"flux\":1}".getBytes(StandardCharsets.UTF_8));
    Client.Answer refused =
        put("/api/projects/" + project + "/runs", "{\"sets\":" + RULE.formatted("../x") + "}");
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.json().at("/detail").asString())
        .contains("must lie below", "Nothing was changed");
    String rule = RULE.formatted("restart");
    step(1);
    JsonNode found =
        app.client()
            .post("/api/projects/" + project + "/runs/preview", "{\"sets\":" + rule + "}")
            .json();
    assertThat(found.at("/runs/0/setup").asString()).isEqualTo("disc.setup.json");
    assertThat(found.at("/runs/0/restarts").asInt()).isEqualTo(1);
    String version = project().at("/version").asString();
    assertThat(put("/api/projects/" + project + "/runs", "{\"sets\":" + rule + "}").status())
        .isEqualTo(200);
    assertThat(app.client().put("/api/projects/" + project + "/runs", version, "{}").problem())
        .as("edited in two tabs")
        .isEqualTo("changed-meanwhile");
    String plan =
        project().at("/plan").toString().replaceFirst("\"everySteps\":\\d+", "\"everySteps\":1");
    assertThat(
            put(
                    "/api/projects/" + project,
                    "{\"plan\":" + plan + ",\"program\":" + project().at("/program") + "}")
                .status())
        .isEqualTo(200);
    untilSteps(1L);
    step(2);
    untilSteps(1L, 2L);
    app.stop();
    app.database().wipe();
    app.start();
    untilSteps(1L, 2L);
    JsonNode trail = trailOf("disc.setup.json");
    JsonNode compared =
        app.client()
            .compared(
                trail.path("document").asString(),
                trail.at("/states/1/id").asString(),
                trail.at("/states/0/id").asString());
    assertThat(compared.path("changes").toString()).contains("mean 1.50000 → 3.00000");
    assertThat(compared.path("setups").asString())
        .isEqualTo("Both steps come from the same set-up.");
    assertThat(compared.path("shows").asString()).isEqualTo("FIELD");
    JsonNode newest = trail.at("/states/0");
    assertThat(newest.at("/step/members").size()).isEqualTo(2);
    assertThat(newest.at("/step/lacks").size()).isZero();
    aStepGoesOutAsATableAndEachIntoTheArchive(trail);
  }

  private void aStepGoesOutAsATableAndEachIntoTheArchive(JsonNode trail) throws Exception {
    String document = trail.path("document").asString();
    Path out = app.keep().resolveSibling("out");
    String written =
        app.client()
            .post(
                "/api/documents/%s/versions/%s/formats"
                    .formatted(document, trail.at("/states/0/id").asString()),
                "{\"ending\":\"csv\",\"folder\":\"%s\"}".formatted(out))
            .json()
            .path("path")
            .asString();
    assertThat(out.resolve("disc-0002.restart.csv"))
        .hasToString(written)
        .hasContent("temperature\n2.0\n4.0");

    Path first = app.work().resolve("restart/disc-0001.restart.h5");
    byte[] held = Files.readAllBytes(first);
    Files.delete(first);
    Path bag = app.keep().resolveSibling("archive");
    String archive = "/api/projects/" + project + "/archive";
    assertThat(app.client().get(archive).json().at("/earlier/files").asInt()).isEqualTo(1);
    app.client().post(archive, "{\"folder\":\"%s\",\"allowed\":[],\"note\":\"\"}".formatted(bag));
    untilPacked();
    Path back = app.keep().resolveSibling("back");
    app.client()
        .post(
            "/api/archives/bring-back", "{\"folder\":\"%s\",\"into\":\"%s\"}".formatted(bag, back));
    untilPacked();
    try (Stream<Path> earlier = Files.walk(back.resolve("earlier versions/disc.setup.json"))) {
      assertThat(earlier.filter(Files::isRegularFile))
          .singleElement(PATH)
          .hasBinaryContent(held)
          .hasFileName("disc-0001.restart.h5");
    }
    assertThat(Files.readString(bag.resolve("states.csv")).lines())
        .filteredOn(l -> l.contains("step 1/"))
        .singleElement()
        .asString()
        .startsWith("disc.setup.json,");
  }

  private void untilPacked() {
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(app.client().get("/api/bundles").json().at("/bundle/stage").asString())
                    .isEqualTo("DONE"));
  }

  @Test
  void aTrialIsMadeTakenOverAndTheMainFileStandsAside() throws Exception {
    begin(1);
    await()
        .atMost(Patience.LONG)
        .ignoreExceptions()
        .untilAsserted(
            () -> assertThat(trailOf("carriage-02.glb").at("/states").size()).isEqualTo(1));
    String main = app.document();
    JsonNode made =
        app.client().post("/api/documents/" + main + "/go-on", "{\"mode\":\"BRANCH\"}").json();
    Path trial = app.work().resolve("carriage-02-trial.glb");
    assertThat(made.at("/receipt/target").asString()).isEqualTo(trial.toString());
    assertThat(Files.mismatch(trial, app.live())).isEqualTo(-1);
    assertThat(
            app.client()
                .post("/api/documents/" + main + "/go-on", "{\"mode\":\"REPLACE\"}")
                .status())
        .isEqualTo(422);
    byte[] tried = RunningKavrin.model("Frame", "Canopy");
    app.write(trial, tried);
    await()
        .atMost(Patience.LONG)
        .ignoreExceptions()
        .untilAsserted(
            () ->
                assertThat(trailOf("carriage-02-trial.glb").at("/states/0/partsTotal").asInt())
                    .isEqualTo(2));
    JsonNode branch = trailOf("carriage-02-trial.glb");
    String what =
        "\"of\":\"%s\",\"state\":\"%s\",\"mode\":\"REPLACE\""
            .formatted(branch.path("document").asString(), branch.at("/states/0/id").asString());
    JsonNode preview =
        app.client().post("/api/documents/" + main + "/restores/preview", "{" + what + "}").json();
    byte[] before = Files.readAllBytes(app.live());
    JsonNode receipt =
        app.client()
            .post(
                "/api/documents/" + main + "/restores",
                "{" + what + ",\"digest\":\"" + preview.path("digest").asString() + "\"}")
            .json();
    assertThat(Files.readAllBytes(app.live())).isEqualTo(tried);
    assertThat(Path.of(receipt.at("/receipt/aside").asString())).hasBinaryContent(before);
  }

  @Test
  void outsideItsHoursAPlaceRestsAndALayoutMakesItsFolders() throws Exception {
    begin(1);
    JsonNode places = app.client().get("/api/folders").json();
    String work =
        StreamSupport.stream(places.spliterator(), false)
            .filter(p -> p.path("path").asString().equals(app.work().toString()))
            .findFirst()
            .orElseThrow()
            .path("id")
            .asString();
    java.time.LocalTime now = java.time.LocalTime.now(java.time.ZoneId.of("UTC"));
    String later =
        "{\"from\":\"%s\",\"to\":\"%s\",\"bytesPerSecond\":0}"
            .formatted(now.plusHours(2).withNano(0), now.plusHours(3).withNano(0));
    assertThat(app.client().put("/api/folders/" + work + "/hours", "0", later).status())
        .isEqualTo(204);
    app.write(app.live(), RunningKavrin.model("Frame", "Roof"));
    await()
        .atMost(Patience.LONG)
        .ignoreExceptions()
        .untilAsserted(
            () ->
                assertThat(trailOf("carriage-02.glb").at("/live/heldBy").asString())
                    .contains("outside the hours set for " + app.work()));
    assertThat(
            app.client()
                .put("/api/folders/" + work + "/hours", "0", "{\"bytesPerSecond\":7}")
                .json()
                .at("/detail")
                .asString())
        .contains("7 B/s");
    String layouts = "/api/projects/" + project + "/layout";
    assertThat(app.client().put(layouts, "0", "{\"text\":\"../out: *.glb\"}").status())
        .isEqualTo(422);
    assertThat(app.work().resolveSibling("out")).doesNotExist();
    JsonNode kept =
        app.client().put(layouts, "0", "{\"text\":\"saves: *.glb\\nexports: *.obj\"}").json();
    assertThat(app.work().resolve("saves")).isDirectory();
    assertThat(kept.at("/misfiled/0/path").asString()).isEqualTo("carriage-02.glb");
    assertThat(app.live()).as("no file is moved").exists();
  }
}
