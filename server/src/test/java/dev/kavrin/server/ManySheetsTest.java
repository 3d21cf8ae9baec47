package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** A drafter's whole set of sheets going down at once, and what its program left behind. */
class ManySheetsTest {
  private static final int SHEETS = 86;

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private Path sheet(int n) {
    return app.work().resolve("sheet-%02d.glb".formatted(n));
  }

  private Path autosave(int n) {
    return app.work().resolve(".drafts/sheet-%02d~1.tmp".formatted(n));
  }

  private JsonNode project() throws Exception {
    return app.client().get("/api/overview").json().at("/projects/0");
  }

  /** Documents with an incident. */
  private List<JsonNode> down() throws Exception {
    List<JsonNode> down = new ArrayList<>();
    for (JsonNode document : project().path("documents")) {
      if (document.has("incident")) {
        down.add(document);
      }
    }
    return down;
  }

  private void begin() throws Exception {
    Instant saved = Instant.now().minusSeconds(3600);
    for (int n = 0; n < SHEETS; n++) {
      app.write(sheet(n), model("Frame", "Sheet " + n));
      app.write(autosave(n), model("Frame", "Sheet " + n, "Line"));
      Files.setLastModifiedTime(sheet(n), FileTime.from(saved));
      Files.setLastModifiedTime(autosave(n), FileTime.from(saved.plusSeconds(60L * (n % 30))));
    }
    assertThat(app.project(3).status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              for (JsonNode document : project().path("documents")) {
                assertThat(document.path("copies").asInt()).isPositive();
              }
            });
  }

  @Test
  void theyAreOneIncidentEachWithItsOwnLossAndEachIsSecured() throws Exception {
    begin();
    String id = project().path("id").asString();
    assertThat(app.client().post("/api/projects/" + id + "/incidents", "").status()).isEqualTo(200);
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(down()).hasSize(SHEETS));
    assertThat(down().stream().map(d -> d.at("/incident/id").asString()).distinct()).hasSize(1);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(down()).allMatch(d -> d.has("lostSeconds")));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(project().at("/documents/0/copies").asInt()).isEqualTo(2));
    JsonNode some = down().get(17);
    JsonNode desk =
        app.client().get("/api/documents/" + some.path("id").asString() + "/recovery").json();
    assertThat(desk.at("/candidates/0/path").asString()).contains("sheet-17");
    assertThat(desk.at("/candidates/0/parts").asInt()).isEqualTo(3);
  }

  @Test
  void whatTheProgramLeftIsTakenAwayByNameOnlyAndCanBeHadBack() throws Exception {
    begin();
    String address = "/api/projects/" + project().path("id").asString() + "/leftovers";
    JsonNode found = app.client().get(address).json();
    assertThat(found.path("files").size()).isEqualTo(SHEETS);
    JsonNode first = found.at("/files/0");
    byte[] bytes = Files.readAllBytes(autosave(0));
    String named = "{\"path\":" + first.path("path") + ",\"modified\":\"%s\"}";
    String live = "{\"path\":\"" + sheet(3) + "\",\"modified\":" + first.path("modified") + "}";
    Client.Answer refused = app.client().post(address, "{\"files\":[" + live + "]}");
    assertThat(refused.json().path("cleared").asInt()).isZero();
    assertThat(refused.json().at("/leftAlone/0/words").asString()).contains("no copy of this");
    Client.Answer stale =
        app.client().post(address, "{\"files\":[" + named.formatted("2031-01-01T00:00:00Z") + "]}");
    assertThat(stale.json().at("/leftAlone/0/words").asString()).contains("written since");
    assertThat(autosave(0)).exists();

    Client.Answer done =
        app.client()
            .post(
                address,
                "{\"files\":[" + named.formatted(first.path("modified").asString()) + "]}");
    assertThat(done.json().path("cleared").asInt()).isEqualTo(1);
    assertThat(autosave(0)).doesNotExist();
    assertThat(autosave(1)).exists();
    assertThat(sheet(0)).exists();
    try (Stream<Path> kept = Files.walk(app.keep())) {
      assertThat(kept.filter(Files::isRegularFile).filter(f -> holds(f, bytes))).hasSize(1);
    }
    try (Stream<Path> held = Files.walk(autosave(0).resolveSibling(".kavrin"))) {
      assertThat(held.filter(Files::isRegularFile)).isEmpty();
    }
  }

  private static boolean holds(Path file, byte[] bytes) {
    try {
      return Files.size(file) == bytes.length
          && java.util.Arrays.equals(Files.readAllBytes(file), bytes);
    } catch (java.io.IOException gone) {
      return false;
    }
  }
}
