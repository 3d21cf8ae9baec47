package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** The surroundings of the work: found, backed up, and back as they were. */
class BesideTest {
  private static final String PLAN =
      """
      {"interval":"PT1S","quiet":"PT2S","hardLimit":"PT60S","keep":{"newest":20,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0},"accepted":"PT30M"}""";

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private Path own() {
    return app.in(".config/tarn/5.1");
  }

  private void text(Path file, String text) throws IOException {
    app.write(file, text.getBytes(StandardCharsets.UTF_8));
  }

  private JsonNode project(Path folder) throws Exception {
    for (JsonNode project : app.client().get("/api/projects").json()) {
      if (project.path("folder").asString().equals(folder.toString())) {
        return project;
      }
    }
    throw new AssertionError("No project of " + folder);
  }

  private JsonNode beside() throws Exception {
    String id = project(app.work()).path("id").asString();
    return app.client().get("/api/projects/" + id + "/beside").json();
  }

  private int create(String name, String folder, String rule, String program) throws Exception {
    return app.client()
        .post(
            "/api/projects",
            """
            {"name":"%s","folder":"%s","rule":%s,"recovery":"%s","plan":%s%s}
            """
                .formatted(name, folder, rule, app.keep(), PLAN, program))
        .status();
  }

  @Test
  void aProgramsOwnFilesAreFoundBackedUpAndRestored() throws Exception {
    text(own().resolve("windows.layout"), "left;right");
    text(own().resolve("brushes/rust.preset"), "radius 4");
    text(own().resolve("session.log"), "started");
    text(app.in(".config/tarn/5.0/windows.layout"), "left");
    app.write(app.live(), RunningKavrin.model("Frame"));
    String program =
        """
        ,"program":{"name":"Tarn Modeller","process":"no-process-has-these-words","leftovers":[],
          "ownFiles":[{"folder":"../.config/tarn/*","rule":["*.layout","*.preset"]},
                      {"folder":"/etc/tarn/*","rule":["*"]}]}""";
    assertThat(create("Carriage", app.work().toString(), "[\"*.glb\"]", program)).isLessThan(300);

    JsonNode found = beside();
    assertThat(found.size()).isEqualTo(3);
    assertThat(found.at("/0/folder").asString()).endsWith("tarn/5.0");
    assertThat(found.at("/1/folder").asString()).isEqualTo(own().toString());
    assertThat(found.at("/1/why").asString()).isEqualTo("OWN_FILES");
    assertThat(found.at("/1/files").asInt()).isEqualTo(2);
    assertThat(found.at("/1/bytes").asInt()).isEqualTo(18);
    assertThat(found.at("/1/backedUpBy").isMissingNode()).isTrue();
    assertThat(found.at("/2/allowed").asBoolean()).as("outside the roots").isFalse();
    assertThat(found.at("/2/folder").asString()).as("not looked into").isEqualTo("/etc/tarn");

    String rule = found.at("/1/rule").toString();
    assertThat(create("Tarn Modeller 5.1", own().toString(), rule, "")).isLessThan(300);
    assertThat(beside().at("/1/backedUpBy").asString()).isEqualTo("Tarn Modeller 5.1");
    assertThat(beside().at("/0/backedUpBy").isMissingNode()).isTrue();

    comesBack(own().resolve("brushes/rust.preset"), "radius 4", "radius 40");
  }

  /** A version before the last change replaces today's file. */
  private void comesBack(Path file, String was, String wrong) throws Exception {
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(RunningKavrin.backups(app.keep(), "rust.*\\.preset")).isEqualTo(1));
    text(file, wrong);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(RunningKavrin.backups(app.keep(), "rust.*\\.preset")).isEqualTo(2));
    String document = documentAt("brushes/rust.preset");
    JsonNode[] older = new JsonNode[1];
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              older[0] =
                  app.client().get("/api/documents/" + document + "/versions").json().at("/states");
              assertThat(older[0].size()).isEqualTo(2);
            });
    String order =
        "{\"state\":\"%s\",\"mode\":\"REPLACE\"".formatted(older[0].at("/1/id").asString());
    String base = "/api/documents/" + document + "/restores";
    String digest =
        app.client().post(base + "/preview", order + "}").json().path("digest").asString();
    Client.Answer restored = app.client().post(base, order + ",\"digest\":\"" + digest + "\"}");
    assertThat(restored.status()).as(restored.body()).isLessThan(300);
    assertThat(file).hasContent(was);
  }

  private String documentAt(String path) throws Exception {
    for (JsonNode project : app.client().get("/api/overview").json().path("projects")) {
      for (JsonNode document : project.path("documents")) {
        if (document.path("path").asString().endsWith(path)) {
          return document.path("id").asString();
        }
      }
    }
    throw new AssertionError("No document " + path);
  }

  @Test
  void linkedFilesOutsideAreToldByFolderAndEnding() throws Exception {
    Path library = app.in("library");
    text(library.resolve("rust/plate.csv"), "1");
    text(library.resolve("rust/bolt.csv"), "22");
    text(library.resolve("unused.txt"), "no");
    text(
        app.work().resolve("pier.gltf"),
        """
        {"asset":{"version":"2.0"},"images":[
          {"uri":"../library/rust/plate.csv"},{"uri":"../library/bolts.csv"},{"uri":"near.png"}]}
        """);
    text(library.resolve("bolts.csv"), "333");
    assertThat(create("Carriage", app.work().toString(), "[\"*.gltf\"]", "")).isLessThan(300);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode found = beside();
              assertThat(found.size()).as("one inside the other are one").isEqualTo(1);
              assertThat(found.at("/0/why").asString()).isEqualTo("LINKED");
              assertThat(found.at("/0/folder").asString()).isEqualTo(library.toString());
              assertThat(found.at("/0/rule").toString()).isEqualTo("[\"*.csv\"]");
              assertThat(found.at("/0/files").asInt()).isEqualTo(3);
              assertThat(found.at("/0/bytes").asInt()).isEqualTo(6);
            });
    assertThat(create("Library", library.toString(), "[\"*.csv\"]", "")).isLessThan(300);
    assertThat(beside().at("/0/backedUpBy").asString()).isEqualTo("Library");
    assertThat(Files.exists(library.resolve("unused.txt"))).isTrue();
  }
}
