package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Two states held against each other, a file from elsewhere, and what can be taken along. */
class ComparingTest {
  private static final Duration SOON = Duration.ofSeconds(20);

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private JsonNode states() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/trail").json().path("states");
  }

  private void begin() throws Exception {
    app.write(app.live(), model("Frame", "Roof"));
    assertThat(app.project(1).status()).isEqualTo(201);
    await().atMost(SOON).untilAsserted(() -> assertThat(states().size()).isEqualTo(1));
    await()
        .atMost(SOON)
        .untilAsserted(() -> assertThat(states().at("/0/copies").size()).isEqualTo(2));
    app.write(app.live(), model("Frame", "Roof", "Bell, \"small\""));
    await().atMost(SOON).untilAsserted(() -> assertThat(states().size()).isEqualTo(2));
  }

  private String address(String rest) throws Exception {
    return "/api/documents/"
        + app.document()
        + "/comparison"
        + rest
        + "a="
        + states().at("/1/id").asString()
        + "&b="
        + states().at("/0/id").asString();
  }

  @Test
  void theSameNumbersAreHadAsAFile() throws Exception {
    begin();
    JsonNode shown =
        app.client()
            .compared(
                app.document(), states().at("/1/id").asString(), states().at("/0/id").asString());
    assertThat(shown.path("counts").path("ADDED").asInt()).isEqualTo(1);
    assertThat(shown.path("tolerance").asDouble()).isPositive().isLessThan(1e-3);
    assertThat(shown.at("/readA/format").asString()).isEqualTo("glb");

    JsonNode json = app.client().get(address("/export?as=JSON&")).json();
    assertThat(json.path("parts")).isEqualTo(shown.path("changes"));
    Path schema = Path.of("..", "docs", "comparison.schema.json");
    JsonNode wanted =
        tools.jackson.databind.json.JsonMapper.shared()
            .readTree(Files.readString(schema))
            .path("required");
    for (JsonNode key : wanted) {
      assertThat(json.has(key.asString())).as(key.asString()).isTrue();
    }

    List<String> table = app.client().get(address("/export?as=CSV&")).body().lines().toList();
    assertThat(table.get(0)).startsWith("outcome,kind,part in A,part in B");
    assertThat(table)
        .anyMatch(
            l -> l.startsWith("ADDED,mesh,,\"Bell, \"\"small\"\"\"") && l.contains(",faces,,"));
  }

  @Test
  void aFileFromElsewhereIsHeldAgainstAStateAndLetGo() throws Exception {
    begin();
    String older = states().at("/1/id").asString();
    String path = "/api/documents/" + app.document() + "/comparison/dropped?a=" + older + "&name=";
    JsonNode known =
        app.client().send(path + "..%2F..%2Fsomewhere.glb", Files.readAllBytes(app.live())).json();
    assertThat(known.path("name").asString()).isEqualTo("somewhere.glb");
    assertThat(known.path("known").asString()).isEqualTo(states().at("/0/id").asString());
    assertThat(known.at("/view/counts/ADDED").asInt()).isEqualTo(1);
    JsonNode other = app.client().send(path + "other.glb", model("Frame")).json();
    assertThat(other.path("known").isMissingNode()).isTrue();
    assertThat(other.at("/view/counts/REMOVED").asInt()).isEqualTo(1);
    String content = other.at("/view/contentB").asString();
    assertThat(app.client().get("/api/contents/" + content + "/preview").status()).isEqualTo(200);
    JsonNode broken = app.client().send(path + "cut.glb", new byte[] {103, 108, 84, 70, 2}).json();
    assertThat(broken.at("/view/readB/findings/0/severity").asString()).isEqualTo("DAMAGED");
    assertThat(app.client().send(path + "%20", new byte[1]).problem()).isEqualTo("no-name");
    try (var left = Files.list(app.settings(0).data().resolve("dropped"))) {
      assertThat(left).isEmpty();
    }
  }

  @Test
  void aToleranceOfThePersonsOwnCounts() throws Exception {
    begin();
    Client.Answer wide = app.client().get(address("?tolerance=1000&"));
    assertThat(wide.status()).isEqualTo(200);
    assertThat(app.client().get(address("?tolerance=-1&")).status()).isEqualTo(400);
  }

  @Test
  void whatIsReadOfEachKindIsTold() throws Exception {
    JsonNode kinds = app.client().get("/api/kinds").json();
    assertThat(kinds.size()).isGreaterThan(15);
    assertThat(kinds.at("/0/endings").toString()).contains("glb", "gltf");
  }
}
