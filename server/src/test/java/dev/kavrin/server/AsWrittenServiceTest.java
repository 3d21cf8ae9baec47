package dev.kavrin.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/**
 * What a program writes aside, through the running service: a version like any other, with its
 * guard told on the plan and its room in the list, gone from the program's folder or not.
 */
class AsWrittenServiceTest {

  @RegisterExtension static final RunningKavrin app = new RunningKavrin();

  private String project() throws Exception {
    app.write(app.live(), RunningKavrin.model("Frame"));
    Client.Answer made =
        app.client()
            .post(
                "/api/projects",
                """
                {"name":"Carriage","folder":"%s","rule":["*.glb"],"recovery":"%s",
                 "program":{"name":"Tarn Modeller","process":"","leftovers":[
                   {"kind":"AUTOSAVE","folder":".drafts","pattern":"{stem}~{n}.tmp"}]},
                 "plan":{"interval":"PT1H","quiet":"PT2S","hardLimit":"PT60S","accepted":"PT30M",
                   "keep":{"newest":5,"hourly":"PT0S","daily":"PT0S","weekly":"PT0S","ring":0,"room":0}}}
                """
                    .formatted(app.work(), app.keep()));
    assertThat(made.status()).as(made.body()).isEqualTo(200);
    return made.json().path("id").asString();
  }

  private Path slot(int n) {
    return app.work().resolve(".drafts/carriage-02~" + n + ".tmp");
  }

  private void autosave(int n, String... parts) throws Exception {
    Path fresh = slot(n).resolveSibling("fresh");
    app.write(fresh, RunningKavrin.model(parts));
    Files.move(fresh, slot(n), StandardCopyOption.REPLACE_EXISTING);
  }

  private List<JsonNode> kept(String document) throws Exception {
    List<JsonNode> kept = new ArrayList<>();
    for (JsonNode state :
        app.client().get("/api/documents/" + document + "/versions").json().path("states")) {
      for (JsonNode copy : state.path("copies")) {
        if (copy.path("kind").asString().equals("AS_WRITTEN")) {
          kept.add(state);
        }
      }
    }
    return kept;
  }

  private void untilKept(String document, int count) {
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(kept(document)).hasSize(count));
  }

  @Test
  void anAutosaveThatIsGoneIsAVersionThatCanBeRestored() throws Exception {
    project();
    String document = app.document();
    autosave(1, "Frame", "Bell");
    untilKept(document, 1);
    Files.delete(slot(1));
    autosave(1, "Frame", "Bell", "Winch");
    untilKept(document, 2);
    JsonNode newest = kept(document).get(0);
    assertThat(newest.path("verdict").asString()).isEqualTo("INTACT");
    String wish = "\"state\":\"" + newest.path("id").asString() + "\",\"mode\":\"REPLACE\"";
    String at = "/api/documents/" + document + "/restores";
    JsonNode preview = app.client().post(at + "/preview", "{" + wish + "}").json();
    Client.Answer restored =
        app.client()
            .post(at, "{" + wish + ",\"digest\":\"" + preview.path("digest").asString() + "\"}");
    assertThat(restored.status()).as(restored.body()).isEqualTo(200);
    assertThat(app.live()).hasBinaryContent(RunningKavrin.model("Frame", "Bell", "Winch"));
  }

  @Test
  void thePlanTellsWhatGuardedTheLastAndTheRoomListWhatTheyTake() throws Exception {
    String project = project();
    String document = app.document();
    autosave(2, "Frame", "Lamp");
    untilKept(document, 1);
    JsonNode plan = app.client().get("/api/projects/" + project).json().path("plan");
    assertThat(plan.at("/programCopies/newest").asInt()).isEqualTo(6);
    JsonNode last =
        app.client()
            .post("/api/projects/" + project + "/plan/figures", "{\"plan\":" + plan + "}")
            .json()
            .path("lastKept");
    assertThat(last.path("file").asString()).isEqualTo(slot(2).toString());
    assertThat(last.path("guard").asString()).isIn("CLONE", "SECOND_NAME");
    assertThat(Duration.parse(last.path("open").asString())).isLessThan(Patience.LONG);
    long bytes = RunningKavrin.model("Frame", "Lamp").length;
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              List<Long> taken = new ArrayList<>();
              for (JsonNode disk : app.client().get("/api/room").json()) {
                for (JsonNode line : disk.path("lines")) {
                  if (line.path("kind").asString().equals("AS_WRITTEN")) {
                    taken.add(line.path("bytes").asLong());
                  }
                }
              }
              assertThat(taken).contains(bytes);
            });
  }

  @Test
  void switchedOffInThePlanNothingMoreIsKept() throws Exception {
    String project = project();
    String document = app.document();
    autosave(1, "Frame", "Door");
    untilKept(document, 1);
    JsonNode present = app.client().get("/api/projects/" + project).json();
    String off =
        present
            .path("plan")
            .toString()
            .replace("\"interval\":\"PT1H\"", "\"interval\":\"PT1S\"")
            .replaceFirst(
                "\"programCopies\":\\{[^}]*}",
                "\"programCopies\":{\"newest\":0,\"hourly\":\"PT0S\"}");
    assertThat(
            app.client()
                .put(
                    "/api/projects/" + project,
                    present.path("version").asString(),
                    "{\"plan\":" + off + ",\"program\":" + present.path("program") + "}")
                .status())
        .isEqualTo(200);
    autosave(2, "Frame", "Door", "Roof");
    app.write(app.live(), RunningKavrin.model("Frame", "Chair"));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(
                        app.client()
                            .get("/api/documents/" + document + "/versions")
                            .json()
                            .findValuesAsString("cause"))
                    .as("the due backup, two seconds after its write")
                    .contains("due"));
    assertThat(kept(document)).hasSizeLessThanOrEqualTo(1);
  }

  /** Nothing is made by asking; what takes backups already comes before what would be made. */
  @Test
  void foldersForBackupsAreProposedThatCouldTakeThem() throws Exception {
    Files.createDirectories(app.in("station"));
    String ask = "/api/folders/proposals?work=" + app.in("station");
    JsonNode first = app.client().get(ask).json();
    assertThat(first.size()).isPositive();
    for (JsonNode proposal : first) {
      assertThat(proposal.path("faults").size()).isZero();
      assertThat(proposal.path("path").asString()).doesNotStartWith(app.in("station") + "/");
      if (!proposal.path("exists").asBoolean()) {
        assertThat(Path.of(proposal.path("path").asString())).doesNotExist();
      }
    }
    project();
    JsonNode then = app.client().get(ask).json();
    List<String> paths = new ArrayList<>();
    then.forEach(p -> paths.add(p.path("path").asString()));
    assertThat(paths).contains(app.keep().toString());
    assertThat(then.get(0).path("exists").asBoolean()).isTrue();
    assertThat(app.client().get("/api/folders/proposals?work=/etc").status()).isEqualTo(403);
  }
}
