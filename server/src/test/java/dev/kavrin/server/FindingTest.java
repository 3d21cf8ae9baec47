package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Copies under any name and of any age, found, put in order, refused, cleared out. */
@Order(1)
class FindingTest {

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private JsonNode trail() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/versions").json();
  }

  private String project() throws Exception {
    return app.client().get("/api/projects").json().at("/0/id").asString();
  }

  private void begin(byte[] live) throws Exception {
    app.write(app.live(), live);
    assertThat(app.project(3).status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(trail().at("/states/0/copies").size()).isEqualTo(2));
  }

  private JsonNode searched() throws Exception {
    assertThat(app.client().post("/api/search", "").status()).isEqualTo(202);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> assertThat(search().at("/latest/ended").asString("")).as("search").isNotEmpty());
    return search();
  }

  private JsonNode search() throws Exception {
    return app.client().get("/api/search").json();
  }

  private static JsonNode stray(JsonNode search, Path file) {
    for (JsonNode stray : search.path("strays")) {
      if (stray.path("path").asString().equals(file.toString())) {
        return stray;
      }
    }
    throw new AssertionError(file + " is not among " + search.path("strays"));
  }

  @Test
  void whatSharesContentIsProposedAndARefusalLasts() throws Exception {
    begin(model("Frame", "Roof", "Brake shoe", "Sand box", "Lantern"));
    Path wanted = app.work().resolve("old laptop/export 12.bin");
    Path other = app.work().resolve("old laptop/export 13.bin");
    app.write(wanted, model("Frame", "Roof", "Brake shoe", "Sand box"));
    app.write(other, model("Frame", "Roof", "Brake shoe"));
    app.write(app.work().resolve("notes.txt"), "Platform edge at 4.20".getBytes());

    JsonNode found = searched();
    assertThat(found.at("/latest/problem").isMissingNode()).isTrue();
    assertThat(found.at("/latest/looked/0/closed").size()).isZero();
    assertThat(found.path("strays").size()).isEqualTo(2);
    assertThat(stray(found, wanted).path("standing").asString()).isEqualTo("OPEN");
    decide(stray(found, wanted), true);
    decide(stray(found, other), false);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(trail().toString()).contains(wanted.toString()));
    assertThat(trail().toString()).doesNotContain(other.toString());

    Path renamed = Files.move(other, app.work().resolve("old laptop/export 13 again.bin"));
    found = searched();
    assertThat(stray(found, renamed).path("standing").asString()).isEqualTo("REFUSED");
    assertThat(trail().toString()).doesNotContain(renamed.toString());
    assertThat(found.at("/latest/found").asInt()).isEqualTo(1);
  }

  private void decide(JsonNode stray, boolean accepted) throws Exception {
    assertThat(
            app.client()
                .post(
                    "/api/strays/" + stray.path("id").asString(), "{\"accepted\":" + accepted + "}")
                .status())
        .isEqualTo(204);
  }

  @Test
  void aKeptStateWhoseTimeWasLostStandsWhereItsNumberSays() throws Exception {
    Instant base = Instant.now().minus(3, ChronoUnit.HOURS).truncatedTo(ChronoUnit.SECONDS);
    for (int n = 14; n <= 18; n++) {
      Path kept = app.work().resolve("versions/carriage-02.glb." + n);
      app.write(kept, model("Frame", "Roof", "Brake shoe", "Bolt " + n));
      Instant at = n == 16 ? base.plus(160, ChronoUnit.MINUTES) : base.plusSeconds((n - 10) * 600L);
      Files.setLastModifiedTime(kept, FileTime.from(at));
    }
    begin(model("Frame", "Roof", "Brake shoe", "Sand box"));
    JsonNode found = searched();
    assertThat(found.path("strays").size()).isEqualTo(5);
    assertThat(found.at("/strays/0/standing").asString()).isEqualTo("ACCEPTED");
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode states = trail().path("states");
              assertThat(states.size()).isEqualTo(6);
              for (int i = 1; i <= 5; i++) {
                assertThat(states.at("/" + i + "/copies/0/path").asString())
                    .endsWith("carriage-02.glb." + (19 - i));
              }
              assertThat(states.at("/3/contradictions/0").asString())
                  .contains("its number 16", "the file system says", "it was copied");
            });
  }

  @Test
  void clearingOutShowsFirstAndNeverTakesTheLastWholeCopy() throws Exception {
    begin(model("Frame"));
    for (int n = 2; n <= 4; n++) {
      app.write(app.live(), model("Frame", "Bolt " + n));
      int states = n;
      await()
          .atMost(Patience.LONG)
          .untilAsserted(() -> assertThat(trail().path("states").size()).isEqualTo(states));
      await()
          .atMost(Patience.LONG)
          .untilAsserted(() -> assertThat(trail().at("/states/0/copies").size()).isEqualTo(2));
    }
    String wish = "{\"olderThan\":\"PT0S\",\"damaged\":false,\"need\":0}";
    String address = "/api/projects/" + project() + "/clear-out";
    JsonNode shown = app.client().post(address + "/preview", "{\"wish\":" + wish + "}").json();
    assertThat(shown.path("drops").asInt()).isEqualTo(3);
    assertThat(shown.at("/lines/0/stays").asInt()).isEqualTo(1);
    Client.Answer stale =
        app.client().post(address, "{\"wish\":" + wish + ",\"digest\":\"another\"}");
    assertThat(stale.problem()).isEqualTo("changed-meanwhile");
    assertThat(trail().path("bin").size()).isZero();
    String confirmed =
        "{\"wish\":" + wish + ",\"digest\":\"" + shown.path("digest").asString() + "\"}";
    assertThat(app.client().post(address, confirmed).status()).isEqualTo(200);
    assertThat(trail().path("bin").size()).isEqualTo(3);
    assertThat(trail().at("/states/0/copies").size()).isEqualTo(2);
    assertThat(
            app.client()
                .post(address + "/preview", "{\"wish\":" + wish + "}")
                .json()
                .path("drops")
                .asInt())
        .isZero();
  }

  @Test
  void namesOfCopiesProposeTheirPattern() throws Exception {
    begin(model("Frame"));
    JsonNode guesses =
        app.client()
            .post(
                "/api/programs/names",
                "{\"names\":[\"/tmp/carriage-02 (auto 7).glb\",\"carriage-02 (auto 12).glb\"]}")
            .json();
    assertThat(guesses.at("/0/pattern").asString()).isEqualTo("{stem} (auto {n}).{ext}");
    assertThat(guesses.at("/0/fits").asInt()).isEqualTo(2);
  }

  @Test
  void snapshotsOfTheDiskAreFoundLookedIntoAndNeverWrittenTo() throws Exception {
    Path snapshots = app.work().resolve(".snapshots");
    for (int day = 1; day <= 3; day++) {
      app.write(
          snapshots.resolve("2031-03-0" + day + "/carriage").resolve(app.live().getFileName()),
          model("Frame", "Roof", "Brake shoe", "Bolt " + day));
    }
    begin(model("Frame", "Roof", "Brake shoe", "Sand box"));
    assertThat(search().at("/snapshots/0").asString()).isEqualTo(snapshots.toString());
    assertThat(lookInto(snapshots.resolve("2031-03-09")).status()).isEqualTo(422);
    assertThat(lookInto(app.work()).problem()).isEqualTo("other-role");
    Set<Path> before = tree(snapshots);
    snapshots.toFile().setWritable(false);
    assertThat(lookInto(snapshots).status()).isEqualTo(201);
    assertThat(search().path("snapshots").size()).isZero();

    JsonNode found = searched();
    assertThat(found.path("strays").size()).isEqualTo(3);
    for (JsonNode stray : found.path("strays")) {
      assertThat(stray.path("standing").asString()).as(stray.toString()).isEqualTo("ACCEPTED");
    }
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(trail().path("states").size()).isEqualTo(4));
    assertThat(tree(snapshots)).isEqualTo(before);
  }

  private Client.Answer lookInto(Path folder) throws Exception {
    return app.client().post("/api/search/folders", "{\"path\":\"" + folder + "\"}");
  }

  private static Set<Path> tree(Path folder) throws Exception {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.collect(Collectors.toSet());
    }
  }
}
