package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.model;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Two states held against each other, a file from elsewhere, and what can be taken along. */
class ComparingTest {

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  private JsonNode states() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/versions").json().path("states");
  }

  private void begin() throws Exception {
    app.write(app.live(), model("Frame", "Roof"));
    assertThat(app.project(1).status()).isEqualTo(200);
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(states().size()).isEqualTo(1));
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(states().at("/0/copies").size()).isEqualTo(2));
    app.write(app.live(), model("Frame", "Roof", "Bell, \"small\""));
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(states().size()).isEqualTo(2));
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
    JsonNode wanted = JsonMapper.shared().readTree(Files.readString(schema)).path("required");
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

  /** A model whose numbers lie in a file of their own, by the glTF 2.0 specification, 3.6.1. */
  private void lean(String data, String... parts) throws Exception {
    byte[] whole = model(parts);
    JsonMapper json = JsonMapper.shared();
    ByteBuffer in = ByteBuffer.wrap(whole).order(ByteOrder.LITTLE_ENDIAN);
    int length = in.getInt(12);
    ObjectNode scene = (ObjectNode) json.readTree(Arrays.copyOfRange(whole, 20, 20 + length));
    ((ObjectNode) scene.at("/buffers/0")).put("uri", data);
    byte[] text = json.writeValueAsBytes(scene);
    byte[] padded = Arrays.copyOf(text, (text.length + 3) / 4 * 4);
    Arrays.fill(padded, text.length, padded.length, (byte) ' ');
    ByteBuffer out = ByteBuffer.allocate(20 + padded.length).order(ByteOrder.LITTLE_ENDIAN);
    out.putInt(0x46546C67).putInt(2).putInt(20 + padded.length);
    out.putInt(padded.length).putInt(0x4E4F534A).put(padded);
    app.write(
        app.live().resolveSibling(data), Arrays.copyOfRange(whole, 28 + length, whole.length));
    app.write(app.live(), out.array());
  }

  private void untilNumbersAreBackedUp(int times) {
    await()
        .atMost(Patience.LONG)
        .until(() -> RunningKavrin.backups(app.keep(), "shapes\\..*\\.bin") == times);
  }

  @Test
  void aCopyIsReadWithWhatItLeanedOnWhenItWasMade() throws Exception {
    lean("shapes.bin", "Frame", "Roof");
    assertThat(app.project(1).status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(states().at("/0/copies").size()).isEqualTo(2));
    // What is written over before its backup stands is gone.
    untilNumbersAreBackedUp(1);
    lean("shapes.bin", "Frame", "Roof over the stand");
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              assertThat(states().size()).isEqualTo(2);
              assertThat(states().at("/0/verdict").asString()).isEqualTo("INTACT");
              assertThat(states().at("/1/verdict").asString()).isEqualTo("INTACT");
            });
    untilNumbersAreBackedUp(2);
    JsonNode shown =
        app.client()
            .compared(
                app.document(), states().at("/1/id").asString(), states().at("/0/id").asString());
    assertThat(shown.at("/counts/SAME").asInt()).as(shown.toString()).isEqualTo(1);
    assertThat(shown.at("/counts/UNREADABLE").isMissingNode()).isTrue();
    String before = shown.path("contentA").asString();
    Files.delete(app.live().resolveSibling("shapes.bin"));
    assertThat(app.client().get("/api/contents/" + before + "/picture").status()).isEqualTo(200);
  }

  /** The backup of a file a version leans on may be away for a while, or not stand yet. */
  @Test
  void whatCouldNotBeReadWholeIsComparedAgain() throws Exception {
    lean("shapes.bin", "Frame", "Roof");
    assertThat(app.project(1).status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(states().at("/0/copies").size()).isEqualTo(2));
    untilNumbersAreBackedUp(1);
    lean("shapes.bin", "Frame", "Roof over the stand");
    await().atMost(Patience.LONG).untilAsserted(() -> assertThat(states().size()).isEqualTo(2));
    untilNumbersAreBackedUp(2);
    String a = states().at("/1/id").asString();
    String b = states().at("/0/id").asString();
    Path numbers;
    try (Stream<Path> all = Files.walk(app.keep())) {
      numbers =
          all.filter(p -> p.getFileName().toString().matches("shapes\\..*\\.bin"))
              .min(Comparator.naturalOrder())
              .orElseThrow();
    }
    Path away = app.keep().resolve(".kavrin/away");
    Files.move(numbers, away);
    JsonNode lacking = app.client().compared(app.document(), a, b);
    assertThat(lacking.at("/counts/UNREADABLE").asInt()).as(lacking.toString()).isPositive();
    Files.move(away, numbers);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () -> {
              JsonNode shown = app.client().compared(app.document(), a, b);
              assertThat(shown.at("/counts/SAME").asInt()).as(shown.toString()).isEqualTo(1);
              assertThat(shown.at("/counts/UNREADABLE").isMissingNode()).isTrue();
            });
  }

  private static byte[] plates(boolean both) {
    GlbWriter writer = new GlbWriter();
    int[] triangle = {0, 1, 2};
    float[] large = {0, 0, 0, 4, 0, 0, 0, 4, 0};
    float[] small = {0, 0, 1, 2, 0, 1, 0, 2, 1};
    writer.mesh("Frame", -1, new MeshData(large, triangle), null, null, -1);
    if (both) {
      writer.mesh("Plate", -1, new MeshData(small, triangle), null, null, -1);
    }
    return writer.bytes(Map.of());
  }

  @Test
  void whatUsedToBeAtASpotIsFound() throws Exception {
    app.write(app.live(), plates(true));
    assertThat(app.project(1).status()).isEqualTo(200);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(states().at("/0/copies").size()).isEqualTo(2));
    app.write(app.live(), plates(false));
    String document = "/api/documents/" + app.document();
    await()
        .atMost(Patience.LONG)
        .untilAsserted(
            () ->
                assertThat(app.client().get(document + "/parts").json().path("gone").size())
                    .isEqualTo(1));
    Set<String> found = new TreeSet<>();
    for (int i = 0; i < 25; i++) {
      String at = "/spot?x=0." + (1 + i % 5 * 2) + "&y=0." + (1 + i / 5 * 2);
      JsonNode spot = app.client().get(document + at).json().path("fillers");
      spot.forEach(
          f ->
              found.add(f.path("label").asString() + (f.path("now").asBoolean() ? " is" : " was")));
    }
    assertThat(found).containsExactly("Frame is", "Plate was");
    assertThat(app.client().get(document + "/spot?x=0.001&y=0.001").json().path("fillers").size())
        .isZero();
    assertThat(app.client().get(document + "/spot?x=1.2&y=0").status()).isEqualTo(400);
  }

  private void read(long bytesPerSecond) throws Exception {
    for (JsonNode place : app.client().get("/api/folders").json()) {
      if (place.path("path").asString().equals(app.keep().toString())) {
        String hours = "/api/folders/" + place.path("id").asString() + "/hours";
        String body = "{\"bytesPerSecond\":" + bytesPerSecond + "}";
        assertThat(app.client().put(hours, "0", body).status()).isEqualTo(204);
      }
    }
  }

  @Test
  void aLongComparisonTellsHowFarItIsAndCanBeStopped() throws Exception {
    float[] points = new float[3_000_000];
    points[0] = 1;
    points[4] = 1;
    for (float height : new float[] {1, 2}) {
      points[8] = height;
      GlbWriter writer = new GlbWriter();
      writer.mesh("Hull", -1, new MeshData(points, new int[] {0, 1, 2}), null, null, -1);
      app.write(app.live(), writer.bytes(Map.of()));
      if (height == 1) {
        assertThat(app.project(1).status()).isEqualTo(200);
      }
      await()
          .atMost(Patience.LONG)
          .untilAsserted(
              () -> {
                assertThat(states().size()).isEqualTo((int) height);
                assertThat(states().at("/0/copies").size()).isEqualTo(2);
              });
    }
    read(2_000_000);
    String address = address("?");
    JsonNode begun = app.client().get(address).json();
    assertThat(begun.has("view")).isFalse();
    assertThat(begun.path("share").asDouble()).isLessThan(1);
    assertThat(app.client().delete(address).status()).isEqualTo(204);
    read(0);
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(app.client().get(address).json().has("view")).isTrue());
  }
}
