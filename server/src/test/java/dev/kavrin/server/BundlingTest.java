package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.bundle.BagCheck;
import dev.kavrin.core.disk.RealDisk;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Work packed through the whole service, and read back. */
class BundlingTest {
  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  @Test
  void aDocumentIsPackedAndReadBackAndAnAlteredFileIsFound() throws Exception {
    app.write(app.live(), model("Frame"));
    assertThat(app.project(1).status()).isEqualTo(200);
    String document = app.document();
    JsonNode[] trail = new JsonNode[1];
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              trail[0] = app.client().get("/api/documents/" + document + "/versions").json();
              assertThat(trail[0].at("/states/0/copies").size()).isEqualTo(2);
            });
    String choices =
        "\"choices\":[{\"document\":\"%s\",\"state\":\"%s\"}]"
            .formatted(document, trail[0].at("/states/0/id").asString());
    JsonNode preview = app.client().post("/api/bundles/preview", "{" + choices + "}").json();
    assertThat(preview.at("/files/0/path").asString()).isEqualTo("carriage-02.glb");
    Path bag = app.keep().resolveSibling("handed-over");
    String order =
        "{%s,\"folder\":\"%s\",\"allowed\":[],\"name\":\"Carriage for the workshop\",\"note\":\"Doors are open.\",\"questions\":\"\",\"mark\":\"\"}";
    assertThat(app.client().post("/api/bundles", order.formatted(choices, "/etc/bag")).status())
        .isEqualTo(403);
    assertThat(app.client().post("/api/bundles", order.formatted(choices, bag)).status())
        .isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(app.client().get("/api/bundles").json().at("/bundle/stage").asString())
                    .isEqualTo("DONE"));
    assertThat(bag.resolve("data/carriage-02.glb")).hasBinaryContent(model("Frame"));
    assertThat(bag.resolve("README.txt"))
        .content(StandardCharsets.UTF_8)
        .contains("Doors are open");
    String check = "{\"folder\":\"" + bag + "\"}";
    JsonNode report = app.client().post("/api/bundles/check", check).json();
    assertThat(report.path("valid").asBoolean()).as(report.toString()).isTrue();
    Files.writeString(bag.resolve("data/carriage-02.glb"), "another");
    assertThat(app.client().post("/api/bundles/check", check).json().path("altered").toString())
        .contains("data/carriage-02.glb");
    assertThat(new BagCheck(new RealDisk()).of(bag).isValid()).isFalse();
  }
}
