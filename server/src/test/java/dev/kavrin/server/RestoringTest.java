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
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Parts, groups and trial copies through the whole service, on real files. */
class RestoringTest {
  private static final Duration SOON = Duration.ofSeconds(20);

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private JsonNode states(String document) throws Exception {
    return app.client().get("/api/documents/" + document + "/trail").json().path("states");
  }

  /** Two states: the older has the handrail, the one of today has not. */
  private String begin() throws Exception {
    app.write(app.live(), model("Frame", "Roof", "Handrail"));
    assertThat(app.project(1).status()).isEqualTo(201);
    String document = app.document();
    await()
        .atMost(SOON)
        .untilAsserted(() -> assertThat(states(document).at("/0/copies").size()).isEqualTo(2));
    app.write(app.live(), model("Frame", "Roof"));
    await()
        .atMost(SOON)
        .untilAsserted(
            () -> {
              assertThat(states(document).size()).isEqualTo(2);
              assertThat(states(document).at("/1/verdict").asString()).isEqualTo("INTACT");
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
            .bytes("/api/documents/" + document + "/states/" + state + "/file", "bytes=100-");
    assertThat(half.statusCode()).isEqualTo(206);
    assertThat(half.body()).isEqualTo(Arrays.copyOfRange(then, 100, then.length));
    assertThat(half.headers().firstValue("Content-Disposition").orElse(""))
        .contains("carriage-02.glb");
    assertThat(half.headers().firstValue("ETag")).isPresent();
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
    app.client()
        .post(
            "/api/documents/" + document + "/marks",
            "{\"state\":\"" + state + "\",\"mark\":\"opened right\",\"on\":true}");
    await()
        .atMost(SOON)
        .untilAsserted(
            () ->
                assertThat(states(document).at("/1/marks").toString())
                    .contains("opened right", "Ilse Quarn"));
  }
}
