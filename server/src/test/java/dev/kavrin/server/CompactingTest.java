package dev.kavrin.server;

import static dev.kavrin.server.RunningKavrin.backups;
import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import dev.kavrin.core.content.gltf.GlbWriter;
import dev.kavrin.core.content.mesh.MeshData;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Older versions for the room of a few, through the whole service: nobody notices. */
class CompactingTest {
  private static final int VERTICES = 9_000;

  @RegisterExtension final RunningKavrin app = new RunningKavrin();

  /** A frame that stays and a roof that is another each time. */
  private static byte[] carriage(int roof) {
    GlbWriter writer = new GlbWriter();
    writer.mesh("Frame", -1, mesh(VERTICES, 1), null, null, -1);
    writer.mesh("Roof " + roof, -1, mesh(90, roof + 10), null, null, -1);
    return writer.bytes(Map.of());
  }

  private static MeshData mesh(int vertices, long seed) {
    Random random = new Random(seed);
    float[] points = new float[3 * vertices];
    int[] corners = new int[vertices];
    for (int i = 0; i < points.length; i++) {
      points[i] = random.nextFloat();
    }
    for (int i = 0; i < vertices; i++) {
      corners[i] = i;
    }
    return new MeshData(points, corners);
  }

  private JsonNode states() throws Exception {
    return app.client().get("/api/documents/" + app.document() + "/versions").json().path("states");
  }

  private String begin(int versions) throws Exception {
    app.write(app.live(), carriage(0));
    String project = app.project(1).json().path("id").asString();
    for (int n = 1; n <= versions; n++) {
      int made = n;
      await()
          .atMost(Patience.LONG)
          .untilAsserted(() -> assertThat(backups(app.keep())).isEqualTo(made));
      if (n < versions) {
        app.write(app.live(), carriage(n));
      }
    }
    await()
        .atMost(Patience.LONG)
        .untilAsserted(() -> assertThat(states().size()).isEqualTo(versions));
    return project;
  }

  private void compacting(String project, boolean on) throws Exception {
    JsonNode now = app.client().get("/api/projects/" + project).json();
    ObjectNode plan = (ObjectNode) now.path("plan");
    ((ObjectNode) plan.path("compacting")).put("on", on).put("newest", 1).put("every", 50);
    ObjectNode body = plan.objectNode();
    body.set("plan", plan);
    body.set("program", now.path("program"));
    assertThat(
            app.client()
                .put("/api/projects/" + project, now.path("version").asString(), body.toString())
                .status())
        .isEqualTo(200);
  }

  private List<Path> files(String ending) throws Exception {
    try (Stream<Path> all = Files.walk(app.keep())) {
      return all.filter(p -> p.toString().endsWith(ending)).toList();
    }
  }

  @Test
  void compactedVersionsCompareShowAndComeBackAsEver() throws Exception {
    String project = begin(5);
    String base = "/api/projects/" + project + "/compacting";
    assertThat(app.client().post(base + "/now", "").problem()).isEqualTo("not-in-the-plan");
    assertThat(app.client().post(base + "/measure?newest=0", "").status()).isEqualTo(422);
    JsonNode measured = app.client().post(base + "/measure?newest=1&every=50", "").json();
    assertThat(measured.path("versions").asInt()).isEqualTo(3);
    assertThat(files(".pack")).as("measuring writes nothing").isEmpty();

    compacting(project, true);
    assertThat(app.client().get(base).json().path("standing").path("due").asInt()).isEqualTo(3);
    JsonNode done = app.client().post(base + "/now", "").json();

    assertThat(done.path("versions").asInt()).isEqualTo(3);
    assertThat(done.path("after").asLong())
        .isEqualTo(measured.path("after").asLong() + bytes(".recipe"))
        .isLessThan(done.path("before").asLong() / 2);
    assertThat(backups(app.keep())).as("the newest and the oldest").isEqualTo(2);
    assertThat(files(".recipe")).hasSize(3);
    JsonNode now = app.client().get(base).json().path("standing");
    assertThat(now.path("compacted").asInt()).isEqualTo(3);
    assertThat(now.path("stored").asLong()).isEqualTo(bytes(".recipe") + bytes(".pack"));
    assertThat(now.path("due").asInt()).isZero();

    JsonNode states = states();
    assertThat(states.at("/3/copies/0/compacted").asBoolean()).isTrue();
    assertThat(states.at("/4/copies/0/compacted").asBoolean()).isFalse();
    JsonNode shown =
        app.client()
            .compared(app.document(), states.at("/3/id").asString(), states.at("/1/id").asString());
    assertThat(shown.path("counts").path("SAME").asInt()).isEqualTo(1);
    assertThat(shown.path("identical").asBoolean()).isFalse();
    restored(states.at("/3/id").asString());
  }

  private long bytes(String ending) throws Exception {
    long all = 0;
    for (Path file : files(ending)) {
      all += Files.size(file);
    }
    return all;
  }

  /** An older version takes the place of the file of today. */
  private void restored(String state) throws Exception {
    String restores = "/api/documents/" + app.document() + "/restores";
    String copy = "\"state\":\"" + state + "\",\"mode\":\"REPLACE\"";
    JsonNode preview = app.client().post(restores + "/preview", "{" + copy + "}").json();
    JsonNode receipt =
        app.client()
            .post(
                restores,
                "{%s,\"digest\":\"%s\"}".formatted(copy, preview.path("digest").asString()))
            .json();
    assertThat(receipt.path("id").asString()).as(receipt.toString()).isNotEmpty();
    assertThat(Files.readAllBytes(app.live())).isEqualTo(carriage(1));
  }
}
