package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What is said after a crash is so: however old it is, whatever the clocks say. */
class TruthTest {

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private JsonNode of(String view) throws Exception {
    return app.client().get("/api/documents/" + app.document() + view).json();
  }

  private void dated(Path file, Instant at) throws Exception {
    Files.setLastModifiedTime(file, FileTime.from(at));
  }

  /** Three weeks on the newest whole one is still the one to take; a stray's time is a guess. */
  @Test
  void anOldCrashHasARecommendationToo() throws Exception {
    Instant crash = Instant.now().minus(19, ChronoUnit.DAYS).truncatedTo(ChronoUnit.SECONDS);
    Path autosave = app.work().resolve(".drafts/carriage-02~1.tmp");
    app.write(autosave, model("Frame", "Roof", "Brake shoe"));
    dated(autosave, crash.minusSeconds(660));
    byte[] saving = model("Frame", "Roof", "Brake shoe", "Sand box");
    app.write(app.live(), Arrays.copyOf(saving, saving.length * 61 / 100));
    dated(app.live(), crash);
    assertThat(app.project(3).status()).isEqualTo(200);

    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode desk = of("/recovery");
              assertThat(desk.at("/candidates/0/path").asString()).isEqualTo(autosave.toString());
              assertThat(desk.path("recommended")).isEqualTo(desk.at("/candidates/0/state"));
              assertThat(desk.at("/candidates/1/words").asString()).startsWith("Damaged");
            });
  }

  @Test
  void aFileFromTheFutureAppearsWithTheTimeItWasSeen() throws Exception {
    app.write(app.live(), model("Frame", "Roof"));
    assertThat(app.project(3).status()).isEqualTo(200);
    Path autosave = app.work().resolve(".drafts/carriage-02~1.tmp");
    app.write(autosave, model("Frame", "Roof", "Brake shoe"));
    dated(autosave, Instant.now().plus(1595, ChronoUnit.DAYS));

    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(of("/versions").toString()).contains(autosave.toString()));
    for (JsonNode state : of("/versions").path("states")) {
      if (state.toString().contains(autosave.toString())) {
        assertThat(Instant.parse(state.path("workTo").asString()))
            .isBefore(Instant.now().plusSeconds(1));
        assertThat(state.path("orderKnown").asBoolean()).isFalse();
        assertThat(state.at("/contradictions/0").asString()).contains("wrong clock");
      }
    }
  }

  private JsonNode live() throws Exception {
    for (JsonNode project : app.client().get("/api/overview").json().path("projects")) {
      for (JsonNode document : project.path("documents")) {
        if (document.path("id").asString().equals(app.document())) {
          return document.path("live");
        }
      }
    }
    throw new AssertionError("The document is not on the overview.");
  }

  @Test
  void theOverviewKnowsThatTheFileIsDamagedAgainAfterAnUndo() throws Exception {
    app.write(app.live(), model("Frame", "Roof"));
    assertThat(app.project(3).status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(of("/versions").at("/states/0/copies").size()).isEqualTo(2));
    byte[] saving = model("Frame", "Roof", "Brake shoe");
    app.write(app.live(), Arrays.copyOf(saving, saving.length * 61 / 100));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(live().path("problem").asString("")).containsIgnoringCase("cut short"));

    String restores = "/api/documents/" + app.document() + "/restores";
    String whole = of("/recovery").path("recommended").asString();
    String wanted = "{\"state\":\"" + whole + "\",\"mode\":\"REPLACE\"";
    String digest =
        app.client().post(restores + "/preview", wanted + "}").json().path("digest").asString();
    JsonNode receipt =
        app.client().post(restores, wanted + ",\"digest\":\"" + digest + "\"}").json();
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(live().path("problem").asString("")).isEmpty());
    String undo = "/api/restores/" + receipt.path("id").asString() + "/undo";
    assertThat(app.client().post(undo, "").status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(live().path("problem").asString("")).containsIgnoringCase("cut short"));
  }

  @Test
  void aSecondSearchReadsNothingThatIsKnown() throws Exception {
    app.write(app.live(), model("Frame", "Roof"));
    app.write(app.work().resolve(".drafts/carriage-02~1.tmp"), model("Frame"));
    app.write(app.work().resolve("old/export 12.bin"), model("Frame", "Roof", "Bell"));
    assertThat(app.project(3).status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(of("/versions").at("/states").size()).isEqualTo(2));
    assertThat(readBySearch()).isEqualTo(2);
    assertThat(readBySearch()).isZero();
  }

  private int readBySearch() throws Exception {
    assertThat(app.client().post("/api/search", "").status()).isEqualTo(202);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(app.client().get("/api/search").json().at("/latest/ended").asString(""))
                    .isNotEmpty());
    return app.client().get("/api/search").json().at("/latest/read").asInt();
  }
}
